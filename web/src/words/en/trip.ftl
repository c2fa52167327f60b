### Words of trip.

## Answer.tsx

open = Open

## restText.ts

at-speed = { " " }at { $speed }
at-the-usual-speed = { " " }at the usual speed
by-rider = { " " }by { $rider }
ridden-rider-how-fast-known = Ridden{ $rider }: { $how }{ $fast }{ $known }
from-from = { " " }from { $from }
wind-wind-from = wind { $wind }{ $from }
tyres-tyres = tyres { $tyres }
weather-said = Weather: { $said }
weather-not-known = Weather: not known
packs-packs = , { $packs } packs
full = full
at-full = at { $full }
starts-in-reserve = Starts { $starts_with }, { $typed } in reserve{ $many }

## WeatherFill.tsx

day = Day
get-the-weather = Get the weather
from-source = From: { $source }.

## TripFields.tsx

route = Route
a-distance-sketched = A distance, sketched
surface = Surface
laps = Laps
leave-empty-for-as-many = Leave empty for as many as the reserve allows
there-and-back-on-the = There and back on the same route
ridden = Ridden
usual-for-its-kind = usual for its kind
start-from-the-other-end = Start from the other end
usual = usual
w-or-250 = W or 250°
a-compass-point-such-as = a compass point such as W, or degrees such as 250
how-many-packs = How many packs
used = Used

## line.ts

choose-a-route-or-sketch = Choose a route, or sketch one.
being-worked-out = Being worked out.
sure-left-after = { $arrives_probability } sure · { $energy_left_fraction } left after { $distance_m }

## ForecastFigures.tsx

left-at-the-end = left at the end
range-reserve-kept = range to { $reserve } left
turn-by = turn by
sure-to-be-back = { $probability } sure to be back
slow-to = slow to
probability-sure = { $probability } sure
enough-at = enough at
range-known-well = range known well

## ForecastHeadline.tsx

laps-and-length =
    { $laps ->
        [one] 1 lap
       *[other] { $laps } laps
    }, { $length },
to-get-there-at-all = ; { $reaches_probability } to get there at all
sure-to-ride-in-and =
    <b>{ $sure } sure</b> to ride { $way } in { $duration_s } and keep { $reserve }{ $reaches_probability }.

## ForecastStrip.tsx

trip-ends = trip ends
enough = enough
tideline-of-the-forecast-of =
    Tideline of the forecast: { $distance_m }, { $energy_left_fraction } of the energy left at the end;
    cut-off is expected at { $range_to_cutoff }.

## ForecastWarnings.tsx

cautions = Cautions

## RestsOn.tsx

what-it-is-based-on = What it is based on
similar-rides = similar rides:
road-load-found-from = road load found from
what-you-entered = what you entered
start-values-for-its-kind = start values for its kind; no test yet
capacity = Capacity
of-the-label = { $capacity } of the label,
from-the-kit = from the kit
gauge = Gauge
shown = { " " }shown
shown-index-is = { $shown }{ $index } is{ " " }
left = { " " }left
of-its-tests = { $count } of its tests
by-its-cycles = by its cycles
assumed-no-test-shows-it = assumed: no test shows it yet

## InputsTable.tsx

every-input-and-its-source = Every input and its source
input = Input
value = Value
standard = ± (standard)
source = Source

## Sensitivity.tsx

what-matters-most = What matters most
left-to-right-distance = { $left } to { $right } { $distance }
range-words = range { $words }
