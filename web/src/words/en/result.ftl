### Words of result.

## TrackMap.tsx

map-of-the-ride-the = Map of the ride, { $at }; the line is thicker where it used more.

## RideMap.tsx

map-of-the-ride = Map of the ride, { $at }
the-route-ridden-from-or =
    The route ridden, from { $limits } or less (thin) to { $at } or more (heavy, ochre). North is up.
the-route-ridden-north-is = The route ridden. North is up.
out-and-home-are-drawn = Out and home are drawn beside each other; a ring marks a turn.
show-how-far-you-would =
    Show how far out you could go and still get back: { $plan } as the crow flies, by what you can plan on
words-at-distance-m-volts = { $words } at { $distance_m }{ $volts }

## traces.ts

not-recorded-here = not recorded here
mean-text-unit = mean { $text } { $unit }

## StretchFields.tsx

write-two-numbers-in-the = Write two numbers in { $unit }, the smaller first.
from-unit = From, { $unit }
to-unit = To, { $unit }
show = Show
whole-ride = Whole ride

## StretchLine.tsx

mean-speed-mps-on-average = { $mean_speed_mps } on average
ascent-m-height-unit-up = { $ascent_m } { $height_unit } up
voltage-low-v-to-voltage = { $voltage_low_v } to { $voltage_high_v } V
the-whole-log = The whole log
this-stretch = This stretch

## TraceChart.tsx

minutes = minutes
traces-of-labels = Traces of { $labels }
traces-of-over-the-table = Traces of { $labels } over { $axis }; the table below holds the values.
point-at-the-traces-to = Point at the traces to read them; drag across a stretch to zoom in.
clock = clock

## TracesSection.tsx

traces = Traces
axis = Axis
by-distance = by distance
by-time = by time
traces-shown = Traces shown

## AgainstPlan.tsx

against-the-plan = Against the plan
within-the-forecasts-band = within the forecast’s band
outside-the-forecasts-band = outside the forecast’s band
the-ride-shows = the ride shows { $found } { $unit }, { $inside }.
the-ride-doesnt-show-yet = the ride doesn’t show yet.
forecast-range-to-cut-off = Forecast range to cut-off { $forecast } { $unit } ({ $span }); { $found }

## changes.ts

range-to-cut-off = Range to cut-off
plan-on = Plan on
what-was-was-now-is = { $what }: was { $was }, now { $is }.

## ChangedNote.tsx

what-changed-in-this-result = What changed in this result
limpet-now-calculates-this-ride = <b>Limpet now calculates this ride better.</b> Your readings are unchanged.
why = Why
got-it = Got it

## WorkingDialog.tsx

with-this-tests-numbers = With this test’s numbers:
value = value
values-are-averages-over-a =
    Values are averages over a thousand draws, so they may not multiply out to the last digit. { $about }
what-makes-it-uncertain = What makes it uncertain
source-more-in-method = Source: { $source }. <a>More in Method</a>

## useWorking.tsx

how-it-was-worked-out = How it was worked out

## ClaimSection.tsx

it-holds-up = It holds up
it-doesnt-hold-up = It doesn’t hold up
cant-tell-yet = Can’t tell yet
faster = faster
slower = slower
more-heavily-loaded = more heavily loaded
more-lightly-loaded = more lightly loaded
cold = cold
partly-pedalled = partly pedalled
the-makers-figure = The maker’s figure
add-the-makers-figure = Add the maker’s figure
probability-held-likely = { " " }({ $probability_held } likely)
this-ride-was = ; this ride was { $differs }
adjusted-to-the-claims-conditions = ; adjusted to the claim’s conditions it is { $low } to { $high }
claim-answered =
    { $verdict }: { $claimed_m } claimed, { $low } to { $high } here{ $adjusted }{ $differs }.
no-makers-figure-yet = No maker’s figure yet.

## Contents.tsx

parts-of-this-result = Parts of this result

## Crumb.tsx

change-label = Change: { $label }
the-test = The test
load-kg-with-gear = , { $load_kg } with gear
rider-not-noted = rider not noted
weather-not-noted = weather not noted
conditions = Conditions
to-the-ride = To the ride
picture = Picture
print = Print

## EntriesSection.tsx

add-an-entry = Add an entry
no-entries-by-hand-the = No entries by hand; the logger recorded the ride.

## threeFigures.ts

in-between = in between
measured-to-its-end = measured to its end
extrapolated-from-used = extrapolated from { $used }
assumed = , assumed
plan-on-kept = Plan on ({ $reserve } in reserve{ $reserve_assumed })
its-months-are-over-ride = its { $months } months are over: ride it again
n-19-of-20-such-rides = 19 of 20 such rides
reserve-at-today = reserve at { $reserve } today

## GaugeSection.tsx

gauge-check = Gauge check
what-the-gauge-really-meant = What the gauge really meant
dashed-over-tests-of-this = Dashed: over { $over } tests of this vehicle.
at-distance = at, { $distance }
it-promised = it promised
came = came
that-is = that is
came-m-of-it = { $came_m } of it
the-fullest-step-lasted = the fullest step lasted { $first_step_m }
the-last-one = the last one { $last_step_m }
it-rose-by-of-full = it rose by { $rebound } of full while standing
a-percent-was-worth-above = a percent was worth { $upper_m_per_percent } above half
lower-m-per-percent-below = { $lower_m_per_percent } below

## BudgetBar.tsx

the-rest = the rest
what-makes-the-unsure = What makes the { $what } unsure

## MethodChart.tsx

methods-for-what = Methods for { $what }
methods-in-unit-said = Methods in { $unit }: { $said }
method = method
to = to
verdict = verdict
note-here = note
used = used
agrees = agrees
does-not-agree = does not agree
span-low-to-high = { $low } to { $high }

## HowSure.tsx

how-sure = How sure
how-sure-and-why = How sure, and why
energy = energy
no-reading-shows-the-energy = No reading shows the energy.
distance = distance
no-reading-shows-the-distance = No reading shows the distance.
range = range
how-to-get-a-better = How to get a better answer
nothing-checks-it = ; nothing checks it
the-rest-agrees = ; the rest agrees
taken-from-the-least-uncertain =
    The { $what } comes from <b>{ $named }</b>, the least uncertain{ $unchecked }{ $agreed }
method-does-not-agree = ; <b>{ $against }</b> disagrees

## LegProfile.tsx

from-to-to-wh-per = { $from } to { $to }: { $wh_per_km }
consumption-by-leg = Consumption by leg
over-the-hills-of-the = { " " }over the hills of the route
consumption-by-leg-said = Consumption by leg{ $tall }: { $said }
from-distance = from, { $distance }
to-distance = to, { $distance }
behind-the-legs-the-height = Behind the legs: the height of the route, { $low } to { $high } { $height_unit }.

## LegsSection.tsx

between-entries = between entries
by-speed = by speed
by-slope = by slope
legs = Legs
legs-by = Legs by
leg = leg
speed = speed
climb-height-unit = climb, { $height_unit }
to-to-m = to { $to_m }

## PackSection.tsx

capacity = Capacity
usable-energy = Usable energy
of-its-label = Of its label
of-its-label-at-a = Of its label at a low rate
pack-climb-and-what-came = Pack, climb and what came back
the-pack = the pack
as-ridden = as ridden
at-25-c = at 25 °C
on-energy-wh = { " " }on { $energy } Wh
alone-it-goes-to = ; alone it goes { $low } to { $high }
pack-carried-it-from-to =
    Pack { $pack } was in use from { $from_m } to { $to_m }{ $energy }{ $range_to_cutoff }.
it-climbed-and-fell-counted =
    It climbed { $ascent_m } and fell { $descent_m }, counted in steps of { $hysteresis_m }.
regeneration = Regeneration
returned-wh-of-what-was = returned { $energy_wh } Wh, { $fraction_of_drawn } of what was drawn.
value-unit-low-to-high = { $value } { $unit }, { $low } to { $high }
value-low-to-high = { $value }, { $low } to { $high }

## PromiseSection.tsx

what-to-plan-on = What to plan on
what-to-plan-on-and = What to plan on, and for how long
ride-it-again-this-ride =
    <b>Ride it again:</b> this ride is more than { $months } months old, and packs lose range as they age.
plan-on-distance-m = Plan on { $distance_m }
or-full-charges-whichever-comes = { " " }or { $cycles } full charges, whichever comes first
the-air-temperature-of-this = { " " }The air temperature of this ride is assumed: nobody noted it.
when-it-is-to-for =
    when it is { $from } to { $to }, for { $months } months after this ride{ $cycles }.{ $temp_assumed }
what-to-plan-on-by = What to plan on by air temperature
air-at-about = Air at about
plan-on-distance = Plan on, { $distance }

## photos.ts

picture-taken-at = Picture taken at { $distance_m }

## SagSection.tsx

sag-and-fade = Sag and fade
resting = resting
under-load = under load
pack-volts = Pack volts
speed-held = speed held
speed-held-title = Speed held
ohm-m-low-to-high = <b>{ $ohm } mΩ</b>, { $low } to { $high }.
at-v-under-load = , at { $onset_voltage_v } V under load
gauge-at-onset-gauge = , gauge at { $onset_gauge }
the-speed-you-could-hold =
    The speed you could hold began to fall at <b>{ $onset_distance_m }</b>{ $onset_voltage_v }{ $onset_gauge };
    before that it was { $reference_speed_mps }.

## WalkCards.tsx

the-sentence = The sentence
the-answer-to-the-question =
    The answer to the question you asked. Where the evidence is thin, the sentence says so.
three-figures = Three figures
what-it-uses-how-far =
    What it uses, how far the pack goes, and what to plan on, which is lower to be safe. Tap a name to see its
    formula with this ride’s numbers.
the-tideline = The tideline
energy-left-over-distance-the =
    Energy left over distance. The solid part was ridden, the band is still uncertain, and each mark is one of
    your entries.
every-methods-answer-on-one =
    Every method’s answer on one axis, and what makes the figure uncertain as one bar. Below it: the one thing
    that would help most next time.
everything-can-be-corrected = Everything can be corrected
change-entries-and-sheet-here =
    Change entries and sheet here; the result follows, and each change can be undone.
card-number-of-count-title = Card { $number } of { $count }: { $title }
number-of-count = { $number } of { $count }
now-one-of-your-own = Now one of your own: <a>log a past ride</a>, or <a2>look at the others</a2>.
leave-the-walk = Leave the walk
back = Back
next = Next

## Warnings.tsx

notes-and-tips = Notes and tips
caution = Caution.

## ResultPicture.tsx

picture-of-the-result = Picture of the result: { $flat }

## PictureDialog.tsx

the-picture-could-not-be = The picture could not be made: { $why }. Try again, or print the page.
the-result-as-a-picture = The result as a picture
shape = Shape
with-the-rides-name = With the ride’s name
a-name-may-tell-where = A name may tell where you ride.
no-place-track-or-riders =
    No place, track or rider’s name is on it. It is made on this device and goes nowhere until you share it.
range-test = Range test
share = Share
save-as-png = Save as PNG
rider-and-load = rider and load { $load_kg }

## ResultPage.tsx

working-out-the-result = Working out the result.
nothing-is-noted-yet-the = Nothing is noted yet. The first entry makes a result.
test-here = Test
these-figures-are-from-before = { $coming } These figures are from before.

## SaveMenu.tsx

save-as = Save as
as-a-bundle = A bundle, with everything in it
as-a-workbook = A workbook (.xlsx)
samples-as-csv = The samples as CSV
samples-as-parquet = The samples as Parquet
track-as-gpx = The track as GPX
track-as-geojson = The track as GeoJSON
result-as-json = The result as JSON
add-a-file = Add a log or a track to this test
