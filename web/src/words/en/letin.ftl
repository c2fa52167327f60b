### Words of import: files that others wrote, looked at before they are taken.

## ImportPage.tsx

import = Import
import-title = Bring in what you have.
import-looked-at = Look at it, then save it.
drop-anything = Drop a log, a track, a spreadsheet of rides, a bundle or pictures here. Several files of one ride may come together.
choose-files = Choose files
files-to-import = Files to import
what-is-read =
    Logs: CSV, TSV, XLSX, ODS, also zipped. Tracks: GPX, TCX, KML, GeoJSON, FIT, NMEA. Old rides: a table with a ride a row.
nothing-is-saved-yet = Nothing is saved until you say so.
sending-share = Sending, { $share }%.
opening = Opening the files.
start-again = Start again
too-large = These files are over { $mib } MiB together. Bring in fewer at once.
imported-before = Imported before
imported-of = { $name }, { $when }: { $files }
undo = Undo
undone = The import is undone.
not-taken = Not taken
part-fault = { $name } { $fault }.
seen-before = This file was imported before, as { $name }.
save-it-again = Save it again
saved = Saved in the logbook.
saved-rides = { $count } rides are in the logbook.
saved-route = The route is saved.
saved-beside = It stands beside the test now.
it-is-a-bundle = A Limpet test bundle: it is saved as it is.
it-is-an-account = All of an account: its kit, routes, tests and how its instruments are read. It comes in whole, or not at all.
take-all-of-it = Take all of it
line-line = , line { $line }
column-column = , column { $column }
save-the-bundle = Save the bundle
a-picture = A picture. It is kept with the ride.
cancelled = Cancelled. Nothing was saved.

## RideCard.tsx

one-ride = One ride
one-ride-of = One ride, from { $count } files
ride-number = Ride { $number } of { $of }
ride-name = Ride name
was-it-full = Was it full at the start?
full-unknown = Not known
full-yes = Yes, charged full
how-it-ended = How it ended
as-a-route = Save it as a route
save-to-logbook = Save to the logbook
leave-out = Leave out
which-ride = Which ride
which-ride-about = It rested for over half an hour in between: are these rides of their own?
all-of-it = All of it, as one
ride-from-to = Ride { $number }, { $from } to { $to }
take-it = Take it
reading = Reading the file.
working-out = Working out the result.
saving = Saving.
into-test = Into the test “{ $title }”
as-route-instead = A route has no times. It can be saved as one.

## LogLook.tsx

log-of-rows = { $name}: a log of { $rows } rows
read-as-before = Read as the last file with these headings was.
guess-again = Look anew
please-check = Before you save it
all-clear = Every column is clear.
column = Column
taken-for = Taken for
not-used = Not used
the-time = The time
lasted = { $minutes } min
other-way = Sign changed
instrument-name = Instrument
instrument-about = Its next file with these headings is read the same way.
what-column-is = What { $source } is
unit-of-source = Unit of { $source }
turn-sign-of = Change the sign of { $source }
which-day = Day and time of the start
which-day-about = The file doesn’t say it.
swap-day-month = Swap day and month
part-of-unit = { $factor } { $unit }
sampled = Drawn from a sample of the rows. All are read when it is saved.

## quantities.ts

voltage = Volts
current = Amps
power = Watts
charge = Amp-hours used
charge-left = Amp-hours left
charge-in = Amp-hours returned
energy = Watt-hours used
energy-left-wh = Watt-hours left
energy-in = Watt-hours returned
speed = Speed
distance = Distance
latitude = Latitude
longitude = Longitude
altitude = Height
battery-temp = Pack temperature
motor-temp = Motor temperature
controller-temp = Controller temperature
cell = One cell’s volts
cell-min = Lowest cell
gauge = Gauge

## TrackLook.tsx

track-of = A track of { $length }, { $points } points.
timed = With times: it was ridden.
not-timed = Without times: it is a plan, not a ride.
no-heights = Without heights.
cut-first = Cut off at the start
cut-last = Cut off at the end
cut-about = So that it doesn’t show where you live. It is cut before it is saved.
cut-both = Cut off { $metres } m at both ends
leave-home = Leave out everything within { $metres } m of home
forget-home = Forget this home
home-is = To leave out all round your home, say where it is:
home-begins = Where this track begins
home-ends = Where it ends
leave-leaps = Leave out the points beyond the leap
the-way = The way, north up

## RecordsLook.tsx

rides-of = A list of rides: { $good } of { $count } rows can be saved.
row = Row
day = Day
km = Distance
wh = Wh
volts-before-after = Volts before, after
at-the-wall = At the wall
what-is-wrong = What is wrong
take-rides = { $count ->
        [one] Save 1 ride
       *[other] Save { $count } rides
    }
more-rows = And { $count } more rows.
skip-row = Leave out row { $row }
what-is-it = What { $source } is
field-none = Not used
field-date = Date
field-clock = Time of day
field-duration = How long
field-note = Note
field-title = Ride name
field-distance = Distance
field-odometer = Odometer after
field-odometer-start = Odometer before
field-volts-start = Volts before
field-volts-end = Volts after
field-gauge-start = Gauge before
field-gauge-end = Gauge after
field-energy = Watt-hours
field-charge = Amp-hours
field-consumption = Watt-hours per distance
field-temp = Temperature
field-wind = Wind
field-speed = Mean speed
field-climb = Climb
field-wall = Watt-hours at the wall

## JoinLook.tsx

one-clock = { $second } on { $first }’s clock
move-by = Move { $name } by, s
clocks-apart = Their clocks alone put it { $seconds } s after the start of { $first }.
no-clocks = Their clocks say nothing about each other.
use-proposal = Use the best match
earlier = 1 s earlier
later = 1 s later
join-said = { $first } and { $second } over time, one moved by { $seconds } s.
minutes = minutes
