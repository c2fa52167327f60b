### Words of memory.

## table.ts

clock = Clock
left-out = Left out

## MemoryTableEditor.tsx

more-were-left-out = { " " }{ $left_out } more were left out.
say-what-the-columns-without = { " " }Say what the columns without a name hold.
rows-are-pasted = { $count } rows are pasted.{ $rest }{ $unnamed }
what-column-holds = What column { $index } holds
row-row-label-of-column = Row { $row }, { $label_of_column }
row-number-label-of-column = Row { $number }, { $label_of_column }: { $text }
add-a-row = Add a row
add-a-column = Add a column
paste-a-table-out-of =
    Paste a table out of a spreadsheet into any cell. Clocks may be left out where a distance was noted.

## MemoryPage.tsx

from-memory = From memory
log-a-past-ride-here = Log a past ride.
log-live = Log live
not-known-here = Not known
yes-charged-full = Yes, charged full
saved-in-the-logbook = Saved in the logbook.
give-it-a-name = give it a name
write-at-least-two-rows = Write at least two rows: the start and the end.
ride-name = Ride name
started = Started
if-you-know-the-time = If you know: the time of the first row below
was-it-full-at-the = Was it full at the start?
how-it-ended = How it ended
what-you-noted = What you noted
