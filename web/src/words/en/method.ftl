### Words of method.

## Formula.tsx

formula = Formula

## FormatPage.tsx

format = Format
formats = Formats
back-to-method = Back to Method
there-is-no-format-with = There is no format with that name.

## Assumptions.tsx

value-u = value ± u
where-it-matters = where it matters
source = source
change-here = change
yours-usually-usual = yours; usually { $usual }
change-item = Change { $item }
yours-from-now-on-results = { $item }: yours from now on. Results are worked out again.
as-usual-again = { $item }: as usual again.
it-matters-for-usually = It matters for { $matters }. Usually { $usual }: { $source }.
value = Value
standard-uncertainty-u = Standard uncertainty u
as-usual = As usual

## MethodPage.tsx

formulas = Formulas
assumptions = Assumptions
where-riders-disagree = Where riders disagree
terms = Terms
cautions = Cautions
the-test-bundle = The test bundle
a-trip-to-forecast = A trip to forecast
a-makers-figure-to-check = A maker’s figure to check
how-any-loggers-table-is = How any logger’s table is read
a-cell-to-build-a = A cell to build a pack of
method = Method
how-every-figure-is-worked = How every figure is worked out.
on-this-page = On this page
in-si-units-discharge-positive =
    In SI units, discharge positive. Every uncertain input is drawn a thousand times. Each figure is worked
    out for every draw, and its interval holds 95% of them.
what-is-assumed-when-nothing = What is assumed when nothing was noted
each-with-its-spread-and =
    Each with its spread and where it matters. Change one, and your results and forecasts use it and say so.
where-riders-disagree-and-what = Where riders disagree, and what Limpet does
question = question
some-say = some say
limpet = Limpet
limpets-file-formats-are-open =
    Limpet’s file formats are open: each has a page and a schema that any program may use.
source-source = Source: { $source }.
