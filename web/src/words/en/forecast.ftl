### Words of forecast.

## KeptTrips.tsx

saved-trips = Saved trips
compare-trip = Compare { $trip }
compare-count = Compare { $count }
choose-two-to-four-of = Choose two to four of them to compare.

## ComparePage.tsx

compare-trips = Compare trips
which-trips = Which trips?
trips-side-by-side = <b>{ $count } trips</b> side by side.
to-the-forecast = To the forecast
forecast-a-trip-then-save =
    { $count ->
        [0] No trip is saved yet.
       *[other] Only one trip is saved.
    } Forecast a trip, then save it there: two saved trips can be compared.
two-to-of-them = Two to { $most_compared } of them
chance-to-arrive = chance to arrive
left-at-the-end = left at the end
left-low-to-high = { $left } ({ $low } to { $high })
range-to-the-reserve = range to the reserve
range-low-to-high = { $range } ({ $low } to { $high })
time = time
route-length = route length
not-in-the-kit-any = not in the kit any more
route = route
sketched = sketched
air = air
being-worked-out = being worked out
each-is-forecast-as-of =
    Each is forecast as of now. Two trips on one vehicle share some of their uncertainty, so their difference
    is surer than the bands suggest.

## KeepTrip.tsx

save-the-changes = Save the changes
save-this-trip = Save this trip
stored-is-saved = “{ $stored }” is saved.
save-kept = Save “{ $kept }”
to-the-light-on-a = To the light on a cold day

## WhatIf.tsx

speed = Speed
extra-load = Extra load
wind = Wind
temperature = Temperature
tyre-pressure = Tyre pressure
what-if = What if
what-if-asked = What if?
before-becomes-after-sure = { $before } becomes { $after } sure.
back-to-todays-conditions = Back to today’s conditions

## WhereItGoes.tsx

rolling = rolling
climb = climb
stops = stops
brakes = brakes
drive-losses = drive losses
lights-and-controller = lights and controller
heat-in-the-pack = heat in the pack
where-the-energy-goes = Where the energy goes

## ForecastPage.tsx

forecast = Forecast
a-trip-today = A trip today.
back-to-the-trip = Back to the trip
there-is-no-trip-at = There is no trip at this address. It may have been removed.
will-this-pack-do-this = Will this pack do this trip today?
another-trip = Another trip
the-forecast = The forecast
choose-a-route-or-sketch = Choose a route, or sketch one with its length.
the-route = The route
turn-by-turn-m = turn by { $turn_m }
