### What stands beside the figures of a test's workbook.

no_samples = No samples were logged.
every_nth = One sample of each { FIXED($every, digits: 0) }; { FIXED($count, digits: 0) } were logged.
live_sums = The sums above are formulas: change a sample, and they follow.
