### Words of kit.

## KitPicker.tsx

another-vehicle = Another vehicle
what-you-ride = What you ride
its-name = Its name
as-you-call-it = As you call it
another-pack = Another pack
the-packs-name = The pack’s name
what-its-label-says = What its label says
label-such-as = 52 V 24 Ah, 2.7 kWh; leave empty if you don’t know
give-it-a-name = give it a name

## FirstKit.tsx

what-do-you-ride-choose = What do you ride? Choose its kind and name the pack. The pack’s label helps.

## PackAgeing.tsx

capacity-at-25-c-share = Capacity at 25 °C, share of the label
range-to-cut-off-share = Range to cut-off, share of the first
months-since-its-first-test = months since its first test
equivalent-full-cycles = equivalent full cycles
remaining-capacity = Remaining capacity
resistance-m-at-25-c = Resistance, mΩ at 25 °C
along = Along
by-months = by months
by-cycles = by cycles
the-first = the first
the-label = the label
share-of-fresh-by-test = { $share } of { $fresh_by_test }
value-low-to-high = { $value } ({ $low } to { $high })
when-it-is-worn = When it is worn
what-it-gave-first = what it gave first
its-label = its label
share-of-fresh = share of { $fresh_by_test }
months-after-its-first-test = months after its first test
full-cycles = full cycles
range-then = range then
going-by-packs-like-it = , going by packs like it: too few tests
within-high = within { $high }
test-by-test = Test by test
months = months
cycles = cycles
ah-at-25-c = Ah at 25 °C
of-the-label-as-ridden = of the label, as ridden
at-25-c = at 25 °C
m-at-25-c = mΩ at 25 °C
range-as-first-ridden = range as first ridden
value-low-to-high-act = { $value } ({ $low } to { $high })

## shelves.ts

vehicles = Vehicles
vehicle-small = vehicle
no-vehicle-yet-its-kind = No vehicle yet. Its kind and weight are enough to begin.
when-low = When low
road-load-from = road load from { $counted }
packs = Packs
pack-small = pack
no-pack-yet-the-label = No pack yet. The label is enough, such as 52 V 24 Ah.
chemistry = Chemistry
not-known-here = Not known
cells-in-series = Cells in series
the-s-of-13s4p-36 = The S of 13s4p: 36 V is often 10, 48 V 13
cells-in-parallel = Cells in parallel
the-p-of-13s4p = The P of 13s4p
taken = { " " }(assumed)
v-full-v-cut-off = { $full_v } V full, { $cutoff_v } V cut-off
riders = Riders
rider-here = rider
no-rider-yet-a-weight = No rider yet. A weight makes results of different riders comparable.
gear-kg-gear = { $gear_kg } gear

## CopiesOffer.tsx

test-is = test is
tests-are = tests are
corrected-results-follow = { $count } { $count_2 } corrected. Results follow.
is-saved-it-as-it =
    { $name } is saved. { $count ->
        [one] One test holds
       *[other] { $count } tests hold
    } it as it was when it was ridden. Was that wrong then too? Choose the tests that the correction belongs to;
    their results are worked out again, and each can be undone in its history.
all-of-them = All of them
tests-you-leave-out-stay = Tests you leave out stay as they are.
leave-them-as-they-are = Leave them as they are
them = them
correct-count = Correct { $count }

## KitDialog.tsx

stored-is-saved = { $stored } is saved.
correct-in-its-tests = Correct { $item } in its tests?
change-item = Change { $item }
add-a-one = Add a { $one }

## LifeTests.tsx

its-tests = Its tests
its-one-test = Its one test
its-count-tests = Its { $count } tests
in-the-logbook = In the logbook
none-yet-what-you-ride = None yet. What you ride with it is listed here.
the-newest-are-shown = The newest { $count } are shown.

## PackLife.tsx

forecast-with-it = Forecast with it
how-it-ages = How it ages
its-gauge = Its gauge
what-the-gauge-meant-on = What the gauge meant on it

## RiderLife.tsx

mass-over-time = Mass over time
mass = Mass
months-since-the-first-test = months since the first test
day = day
gear = gear

## Drifts.tsx

over-the-years = Over the years
what-changed-over-the-years = What changed over the years
by-tests-tests = By { $tests } tests.
of-shown-true = { $of }: shown ÷ true
years-since-its-first-test = years since its first test

## RoadFit.tsx

statement-from = { $statement } From
left-out-left-out = Left out: { $left_out }.
not-known-yet-forecasts-use =
    Not known yet. Forecasts use similar rides or start values, with a wide band. One ride with logged volts,
    amps and speed is enough to find it.
learning-is-off-forecasts-use =
    Learning is off: forecasts use start values for its kind, and results use assumptions for gauge, trip
    meter and pack.
limpet-will-try-again-by = { $fit_trouble } Limpet will try again by itself; what it has stays.
find-again = Find again
find-from-its-tests = Find from its tests
learn-from-its-tests = Learn from its tests
learn-nothing-from-them = Learn nothing from them

## SpeedCurve.tsx

from-to-to-unit-wh = { $from } to { $to } { $unit }: { $wh_per_km }
consumption-by-speed = Consumption by speed
consumption-by-speed-held = Consumption by speed held. { $said }
speed-held-unit = speed held, { $unit }
from-unit = from, { $unit }
to-unit = to, { $unit }
low = low
high = high
the-line-is-this-vehicles =
    The line is this vehicle’s own curve on a level road in calm air at { $temp_c }, with { $mass_kg } moving.
    Points are its rides as ridden: hills, wind, cold and stops move them off it.

## TaughtTable.tsx

trip-meter-shown-true = Trip meter: shown ÷ true
odometer-shown-true = Odometer: shown ÷ true
gauge-linearity-1-linear = Gauge linearity (1 = linear)
left-in-the-pack-when = Left in the pack when the gauge shows empty
range-that-came-range-it = Range that came ÷ range it showed
consumption-of-the-next-such = Consumption of the next such ride
variation-from-ride-to-ride = Variation from ride to ride
what-its-tests-taught = What its tests taught
nothing-yet-a-trip-meter =
    Nothing yet. A trip meter is learned when a ride also has a GPS distance or laps; a gauge when amp-hours
    are read beside it.
not-used-learning-is-off = Not used: learning is off, see below.
number = number
value = value
used = used
use-lessons = Use: { $lessons }
switched-off-results-and-forecasts = Switched off, results and forecasts use the assumptions instead.

## VehicleLife.tsx

how-much-cold-costs = How much cold costs
road-load-from-its-tests = Road load from its tests
what-its-gauge-meant-all = What its gauge meant, all tests together
consumption-by-speed-held-name = Consumption by speed held
ridden = ridden
any = any
under-text = under { $text }
over-text = over { $text }
from-to = { $from } to { $to }
limps-limp-text = slows when low: { $limp_text }
limits = Limits
no-limits-yet-tap-change = No limits yet. Tap Change to add them.
