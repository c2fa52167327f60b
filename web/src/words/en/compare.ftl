### Words of compare.

## CompareTabs.tsx

side-by-side = Side by side
ageing = Ageing
seasons = Seasons
tide-table = Tide table

## YearStrips.tsx

its-tests-oldest-first = Its tests, oldest first
as-ridden-on-one-scale = As ridden, on one scale of distance, to the end or to cut-off.

## AgeingPage.tsx

how-much-has-a-pack = How much has a pack aged?
there-is-no-pack-yet = There is no pack yet. <a>Make one</a>, and ride it once each season.
the-pack = The pack
how-much-has-it-aged = { $name }: how much has it aged?
remaining-capacity = Remaining capacity
the-packs-own-page-has =
    <a>The pack’s own page</a> has when it is worn, its resistance, and every test’s figures.

## newest.ts

to-compare = to compare

## sides.ts

at-as-conditions-each-with = at A’s conditions, each with its own { $own }
at-as-conditions = at A’s conditions
about-the-same = about the same
guess-uses-less = { $guess } uses less
before-you-knew-which-was = Before you knew which was which, you said: { $said }.
the-evidence-agrees = The evidence agrees.
the-evidence-disagrees = The evidence disagrees.
before-you-knew-which-was-which-you = Before you knew which was which, you said: { $said }. { $same }
value-low-to-high = { $value } ({ $low } to { $high })
rides-vary-by-as-earlier = ; rides vary by { $run_spread }%, as { $learned_runs } earlier ones show
assuming-rides-vary-by-about = , assuming rides vary by about { $run_spread }%
pairs-ridden-in-turns = { $first } pairs, ridden in turns
and-rides-each-side-with = { $first } and { $count } rides, each side with its own spread
one-ride-each = One ride each

## SeasonsPage.tsx

how-much-does-cold-cost = How much does cold cost?
there-is-no-vehicle-yet = There is no vehicle yet. <a>Make one</a>, and ride it in more than one season.
the-vehicle = The vehicle
how-much-does-cold-cost-vehicle = { $name }: how much does cold cost?
none-of-its-tests-gives =
    None of its tests gives both a speed and an air temperature. Add the temperature to a test’s sheet, or
    ride one test in warm air and one in cold.
its-tests = Its tests
which-figure = Which figure
range = Range
left-out-because-they-were =
    Left out because they were ridden too differently from others at the same speed: { $unlike }. Ride the
    same way in both.
left-out-pedalled-or-without =
    { $left_out ->
        [one] One test is
       *[other] { $left_out } tests are
    } left out: pedalled, or without a speed or a temperature.
denser-air = denser air
the-pack-gives-less = the pack gives less
stiffer-tyres = stiffer tyres
not-explained-heating-clothing = not explained: heating, clothing, slower legs, chance
from-to-to = { $from } to { $to }
at-from-speed-unit = At { $from } { $speed_unit }
range-to-cut-off = Range to cut-off
air-unit = air, { $unit }
test-by-test = Test by test
tests-name = Tests { $name }
air = air
as-ridden = as ridden
all-else-equal = all else equal
figure-low-to-high = { $value } ({ $low } to { $high })
what-the-models-explain = What the models explain
how-much-is-what = How much is what
for-step-colder = for { $step } colder
changes-it-by = changes it by
n-95-range = 95% range
effect-low-to-high = { $low } to { $high }

## TidesPage.tsx

how-far-by-speed-temperature = How far, by speed, temperature and terrain.
back-to-the-table = Back to the table
ridden-by-name-of = , ridden by { $name_of }
how-far-kit-goes = How far <b>{ $vehicle }</b> goes on { $pack }{ $rider }.
print-the-card = Print the card
print-the-page = Print the page
on-the-card = On the card
miles = Miles
kilometres = Kilometres
until-is-left-large-plan =
    { $distance } until { $reserve } is left. Large: <b>plan on</b> (19 rides in 20 go further). Small: a
    typical ride and a good day.
the-card = The card
miles-small = miles
plan-on-this-many-in =
    Plan on this many { $distance }, { $reserve } in reserve. Not an instrument: watch the pack.
flat = Flat
rolling = Rolling
hilly = Hilly
ft-up-a-mile = ft up a mile
m-up-a-kilometre = m up a kilometre
how-far-item = How far, { $item }
and-count-more = { " " }and { $count } more
by-its-own-tests = By its own tests: { $own_tests }{ $count }.
no-test-of-this-kit = No test of this kit yet: these are start values for such vehicles, and wide.
in-a-usual-wind-forecast =
    { $own_tests } In a usual wind. <a>Forecast</a> takes the route, the wind and the load of the day.

## Offers.tsx

how-one-pack-has-aged = How one pack has aged over all its tests
how-much-cold-costs-over = How much cold costs, over all tests of a vehicle
tests-that-could-show-it = Tests that could show it
none-of-your-tests-differ =
    None of your tests differ in this alone. <a>Plan the missing ride</a>, ridden like the other.
offer-of-tests =
    <a>{ $first_name } against { $second_name }</a>, { $first_runs } against { $second_runs }: a difference of
    { $smallest_seen } would show
count-rides =
    { $count ->
        [one] one ride
       *[other] { $count } rides
    }

## questions.ts

which-vehicle-uses-less = Which vehicle uses less?
which-pack-holds-more = Which pack holds more?
how-much-does-speed-cost = How much does speed cost?
how-much-does-wind-cost = How much does wind cost?
how-much-does-load-cost = How much does load cost?
how-much-do-tyres-matter = How much do tyres matter?
how-much-does-the-surface = How much does the surface matter?
how-much-do-legs-give = How much do legs give?
does-it-repeat = Does it repeat?

## Choosing.tsx

which-uses-less-and-is = Which uses less, and is the difference real?
a-comparison-needs-two-tests =
    A comparison needs two tests. <a>Log one</a>, or import it in the <a2>logbook</a2>.
what-do-you-want-to = What do you want to know?
what-differs-on-purpose = What differs on purpose
one-test = One test
the-other = The other
hide-which-is-which-until = Hide which is which until I’ve made a guess
repeats-show-more-than-single =
    Repeats show more than single rides: choose several tests in the <a>logbook</a>, then Compare.

## Overlay.tsx

title-at-left-after-end = { $title }: { $at } left after { $end_of }
energy-left-over-distance-side = Energy left over distance, side by side
tides-over-each-other = Tides over each other. { $said }

## Blind.tsx

which-is-which-is-hidden = Which is which is hidden. What do you think?
x-and = X and
y-as-ridden-not-yet = Y, as ridden: not yet adjusted for speed, wind and load.
x-uses-less = X uses less
about-the-same-choice = About the same
y-uses-less = Y uses less

## DifferenceBar.tsx

lowest = lowest
best-estimate = best estimate
highest = highest
difference-of-b-from-a = Difference of B from A
difference-of-b-from-a-said = Difference of B from A: { $share_text }
b-compared-with-a = B compared with A
no-difference = no difference
difference-of-b-from-a-axis = difference of B from A

## Along.tsx

where-the-difference-arises = Where the difference arises
less = less
more = more
matched-by-place-on-both = matched by place on both tracks
matched-metre-by-metre = matched metre by metre
behind-it-the-height-of = { "." } Behind it: the height of A’s route, { $tall }
b-had-used-wh-by = B had used { $wh } Wh { $more_or_less } by the end of the shared stretch, { $by }{ $tall }.
b-over-a-along-the = B minus A along the route
b-over-a-along-the-route = B minus A along the route: { $quarters }
b-over-a-so-far = B minus A so far, Wh
b-over-a-wh = B minus A, Wh
height-height-unit = height, { $height_unit }
b-over-a-at-metres = { $metres }: B minus A { $more_text } Wh
low-to-high-height-unit = { $low } to { $high } { $height_unit }
more-wh-wh-after-at = { $more_wh } Wh after { $at_m } { $distance }

## Corrections.tsx

nothing-to-adjust-both-were = Nothing to adjust: both were ridden alike, as far as the notes show.
effect-of-each-condition = Effect of each condition
condition = condition
adjusted-on = adjusted on
effect = effect
change-low-to-high = { $low } to { $high }

## Dots.tsx

as-ridden-adjusted = { $title }: { $ridden } as ridden, { $adjusted } adjusted
every-ride-as-ridden-and = Every ride, as ridden and adjusted
runs-in-unit-said = Runs in { $unit }. { $said }
hollow-as-ridden-filled-adjusted = hollow: as ridden; filled: adjusted to A’s conditions, { $unit }
ride-here = ride
side = side
as-ridden-unit = as ridden, { $unit }
adjusted-unit = adjusted, { $unit }

## InTerms.tsx

kilometres-small = kilometres
range-to-cut-off-a = range to cut-off, a typical ride
bad-day-19-rides-in = bad day (19 rides in 20 go further)
good-day-1-ride-in = good day (1 ride in 20 goes further)
n-19-rides-in-20-and = 19 rides in 20, and 95% sure of that
plan-on-the-bad-day = plan on: the bad day, with { $reserve } in reserve
laps-of-far = laps of { $far }
riding-until-cut-off = riding until cut-off
at-the-socket = at the socket
a-hundred-at-a-kwh = a hundred { $hundred }, at { $price_per_kwh } a kWh
range-time-cost-and-trips = Range, time, cost and trips
range-time-and-cost-of = Range, time and cost of both
the-charger-and-the-price = The charger and the price are <a>assumptions</a> you can change.
on-your-saved-trips-it = On your saved trips it makes no difference: both can do the same ones.
only-can-do = Only { $surely } can do { $name }.
which-of-your-trips-each = Which of your trips each can do
trip = trip
length = length
of-as-charge = of A’s charge
of-bs-charge = of B’s charge
a-makes-it = A makes it
b-makes-it = B makes it

## Pairs.tsx

lap-pair = lap { $pair }
at-the-same-places = At the same places
both-at-the-same-places = Both at the same places
place-here = place
a-after = A after
b-after = B after
a-used = A used
b-used = B used
a-volts = A volts
b-volts = B volts
b-over-a = B minus A

## RunTable.tsx

runs-in-figures = Runs in figures
run = run
as-ridden-hollow = as ridden ○

## Steps.tsx

several-conditions-together = several conditions together
not-explained = not explained
at-equal-conditions = at equal conditions
alike = alike
to = to
what-explains-the-difference = What explains the difference
b-over-a-unit = B minus A, { $unit }
step = step
change-unit = change, { $unit }

## Drawn.tsx

every-ride = Every ride

## Kept.tsx

side-a = Side A
side-b = Side B
to-side = To { $side }

## SettleIt.tsx

settle-it-of-each =
    Settle it: { $runs ->
        [one] one more ride
       *[other] { $runs } more rides
    } of each

## Judged.tsx

side-by-side-title = Side by side.
other-tests = Other tests
b-compared-with-a-at = B compared with A, at A’s conditions: { $share_text }. { $judged_text }.
reasons-and-caveats = Reasons and caveats
