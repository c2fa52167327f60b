### Words of practice.

## DisplayPanel.tsx

what-name-shows = What { $name } shows
volts = volts
trip = trip
bars-of-bars = { $lit } of { $all } bars

## LeftChart.tsx

energy-left-over-distance = Energy left over distance
energy-left-over-distance-the = Energy left over distance: the line is the truth, the bars are what you knew
known = known, %
from-here = from, %
to = to, %
truly = truly, %
you-knew-to-it-was = { $distance_m }: you knew { $low } to { $high }, it was { $left_truly }

## Review.tsx

not-tried = not tried
what-you-knew-and-what = What you knew, and what was true
entry-at = entry at
left-as-known = left, as known
truly-act = truly
turn-by = turn by
what-readings-cost = What hurried readings cost
nothing-was-rushed-mistaken-or = Nothing was rushed, mistaken or forgotten.
energy-left-as-it-should =
    Energy left: ±{ $half }; done right, ±{ $with_half }. Off by { $off }; done right, { $with_off }.
five-lessons = Five lessons
ride-it-again = Ride it again
log-a-real-one = Log a real one
home-with-left = Home with { $left_truly } left.
ended-after-distance-m = Ended after { $distance_m }.
stranded-from-home = Stranded { $turned } from home.
you-did-not-turn = You did not turn.
you-turned-at = You turned at { $turned_m }.
with-in-reserve-you-had =
    { $turned } With { $reserve } in reserve you had to turn at { $last_kept_m }; from { $last_home_m } you
    would have got home with nothing left.
your-log-gives-no-range = Your log gives no range; in truth it was { $truly }, ridden like this.
your-log-gives-a-range =
    Your log gives a range of { $low } to { $high }; in truth it was { $truly }, ridden like this. This
    vehicle’s trip meter reads high.

## RoadStrip.tsx

home = home
the-roads-end = the road’s end

## PracticePage.tsx

to-the-rides = To the rides
last-describe-entry = Last: { $describe_entry }
nothing-noted-yet = Nothing noted yet.
entry-the-ride-is-paused = Entry: the ride is paused
leave-the-practice = ‹ Leave the practice
a-rehearsal-on-skerrow-times =
    A rehearsal on Skerrow, { $pace } times as fast as it would be: { $vehicle }, a stand-up scooter, on a
    full { $series }-cell pack of { $rated_ah } Ah that cuts off at { $cutoff_v } V. The road leads out with
    the wind, up to { $end }, and back the same way. You can turn at any stone.
ride-out-as-far-as =
    Ride out as far as you dare and come home. Stop to read, wait for the volts, note what you would note.
    Nothing goes into the logbook.
first-entry = First entry
what-the-display-shows-standing = what the display shows, standing
without-one = without one
it-stands = It stands
let-the-pack-rest-read = Let the pack rest, read the volts, and note how it ended.
no-answer = No answer
home-after-min = Home after { $minutes } min.
the-drive-cut-off-after = The drive cut off after { $minutes } min.
min-on-the-way-home = { $minutes } min. Heading home, { $left } to go by the stones.
past-the-stone-at = past the stone at { $passed }
before-the-first-stone = before the first stone
it-turns-at-the-next = ; it turns at the next
min-on-the-way-out = { $minutes } min. Heading out, { $stone }{ $turning }.
last-entry = Last entry
entry = Entry
no-more-are-taken = no more entries
volts-trip-gauge = volts, trip, gauge
end = End
as-it-is = as it is
here = here
stop = Stop
rolling = rolling
standing = standing
turn = Turn
done = done
at-the-next-stone = at the next stone
not-yet = not yet
