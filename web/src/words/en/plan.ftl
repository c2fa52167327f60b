### Words of plan.

## Guesses.tsx

guesses = Guesses
the-guesses-opened = The guesses, opened
sealed-guesses = Sealed guesses
how-far-to-cut-off = How far to cut-off? { $opened }
who = Who
seal = Seal
nobody-has-guessed-yet = Nobody has guessed yet.
sealed = sealed
distance-m-off-m-too =
    { $distance_m }, { $off_m } { $too ->
        [far] too far
       *[short] too short
    }

## PlanTabs.tsx

plans = Plans
claim-check = Claim check
size-a-pack = Size a pack
plan = Plan

## ClaimPage.tsx

stored-is-saved = “{ $stored }” is saved.
can-the-makers-figure-be = Can the maker’s figure be true?
a-light-rider = a light rider
a-light-one = a light one
check-it = Check it
the-verdict = The verdict
save-it-as = Save it as
a-flyer-at-the-ferry = A flyer at the ferry
keep = Keep
the-least-a-vehicle-can =
    The least a vehicle can use at a speed, from rolling and air alone, with values so generous that no
    vehicle beats them: CdA 0.40 m², rolling resistance 0.006, efficiency 90%, no wind, stops, hills or
    lights. A figure below that is impossible.
saved-claims = Saved claims
none-yet = None yet.
at-on-wh = <b>{ $claim }</b>: { $distance_m } at { $speed_mps } { $speed_unit } on { $rated_wh } Wh
remove-name = Remove { $name }
the-claim-allows = the claim allows
the-least-possible = the least possible
usual = usual
it-would-need = it would need
a-claim = A claim

## SizePage.tsx

how-big-a-pack-does = How big a pack does the trip need?
back-to-the-size = Back to the size
the-cell-from-its-data = The cell, from its data sheet
chemistry = Chemistry
cells-in-parallel = Cells in parallel
as-many-as-needed = as many as needed
size-the-pack = Size the pack
the-pack = The pack
trying-packs-with-more-and = Trying packs with more and more cells in parallel. This takes a few seconds.
sizing-the-pack = Sizing the pack
enter-the-trip-on-its =
    Enter the trip on its coldest day. The pack has the voltage of the one chosen above, and still makes the
    trip at that share of its capacity.
cells = cells
on-the-label = on the label
needed = needed
mass-with-case = mass with case
per-cell-at-most = per cell, at most
per-cell-on-average = per cell, on average
most-sag = most sag
one-more-cell-in-parallel =
    One more cell in parallel adds { $range_gain_with_one_more_m } of range to the reserve: { $arrives_probability }
    sure becomes { $arrives_with_one_more }.

## BeforeYouGo.tsx

before-you-go = Before you go
before-you-go-of-done = Before you go: { $done } of { $all } done

## PlanPreview.tsx

the-ride-in-numbers = The ride in numbers
laps-laps = { " " }{ $laps } laps.
riding-and-of-rests-charge =
    { $riding_s } riding and { $resting_s } of rests; charge { $charge_s } before.{ $laps }
entries-to-make-at-even = Entries to make, at even steps of energy
entry-at = Entry at
after-lap = After lap
probably-left = Probably left
after = After
count-rides-days = { $count } rides: { $days }.
calendar-file-from-tomorrow = Calendar file from tomorrow
save-the-plan-to-get = Save the plan to get its calendar file.

## QuestionFields.tsx

its-rules = Its rules
for-throttle-only-stops =
    { $why } { $runs ->
        [one] One run
       *[other] { $runs } runs
    } for ±{ $wanted }. Throttle only. Stops: { $stops }
it-ends = It ends
a-usual-one = a usual one
runs = Runs
amp-hours-or-watt-hours = Amp-hours or watt-hours are read

## Series.tsx

rides-that-would-settle-it = Rides that would settle it
title-ridden = <a>{ $title }</a>, ridden
compare-those-ridden-so-far = Compare those ridden so far

## PlanEditor.tsx

plan-saved = Plan saved.
the-plan = The plan
plan-a-test-title = Plan a test.
open-its-ride = Open its ride
save-the-plan = Save the plan
start-the-ride = Start the ride
your-unsaved-changes-are-back = Your unsaved changes are back.
discard-it = Discard it
what-to-expect = What to expect
choose-a-route-or-sketch = Choose a route, or sketch one with its length, and see how it ends.

## PlanPage.tsx

back-to-the-plan = Back to the plan

## Wagers.tsx

who-guesses-best = Who guesses best
the-forecast-guesses-best = The forecast guesses best
best-guesses-best = { $best } guesses best
is-forecast-so-far = { $is_forecast } so far
guesses-over-all-rides = Guesses over all rides
who-column = who
rides = rides
average-error = average error
too-high-out-of-10 = too high, out of 10
scored-so-that-an-honest =
    Scored so that an honest guess does best in the long run. The forecast is scored by its whole spread, a
    guess by its one number.

## PlansPage.tsx

plans-waiting =
    { $waiting ->
        [0] <b>No plan</b> waits to ride.
        [one] <b>One plan</b> waits to ride.
       *[other] <b>{ $waiting } plans</b> wait to ride.
    }
a-plan-shows-before-you =
    A plan shows, before you leave, which ride answers a question, where it will end and where to turn.
ridden-its-result = ridden: its result
arrives-probability-sure = { $arrives_probability } sure
