### Words of chart.

## picture.ts

a-font-did-not-come = a font didn’t load
the-file-could-not-be = the file could not be read
this-browser-draws-no-pictures = this browser draws no pictures
the-picture-is-empty = the picture is empty

## saving.ts

the-picture-is-copied = The picture is copied.

## Values.tsx

of-rows-the-csv-file = { $shown_rows } of { $count } rows; the CSV file has them all.
values-of-name = Values of { $name }

## ChartFoot.tsx

save-as-png = Save as PNG
save-as-svg = Save as SVG
save-the-values-as-csv = Save the values as CSV
copy-the-picture = Copy the picture
share-the-picture = Share the picture
as-a-table = As a table
save-or-share = Save or share { $name }
save-or-share-act = Save or share
copied = copied
shared = shared
saved = saved
the-picture-could-not-be = The picture could not be { $tried }: { $why }. Try another way of the menu.

## Chart.tsx

read-value-by-value = Read { $name } value by value

## GaugeSteps.tsx

what-the-gauge-showed-against = What the gauge showed against what was left
what-the-gauge-showed-against-what-was = What the gauge showed against what was left. { $said }
gauge-shows = gauge shows, %
gauge-shows-bars = gauge shows, bars
shown = shown
left = left, %
from-here = from, %
to = to, %
lasted-distance = lasted, { $distance }
lasted-lasted-m = , lasted { $lasted_m }
shows-left-to = shows { $shown }{ $unit }: { $left } left ({ $low } to { $high }){ $lasted }

## LeftChart.tsx

over-energy-left = { $what } over energy left
over-what-is-left = { $what } over what is left, { $span }: { $drawn }
energy-left-percent = energy left, %
left-left-drawn = { $left } left: { $drawn }

## LifeChart.tsx

what-over-along = { $what } over { $along }
what-over-along-said = { $what } over { $along }. { $said }
value-low-to-high = { $value } ({ $low } to { $high })
