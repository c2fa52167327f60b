### Words of routes.

## RoutePath.tsx

the-route-as-a-line = The route as a line, north up

## RouteProfile.tsx

height-profile = Height profile
height-profile-from = Height profile: { $total }, from { $said }
height-unit = height, { $unit }

## ImportRoute.tsx

stored-is-saved = { $stored } is saved.
import-a-gpx-file = Import a GPX file
gpx-file = GPX file
choose-a-track-or-a = Choose a track or a route
import = Import

## LegRows.tsx

surface = Surface
what-can-be-done = actions
field-of-leg-index = { $field } of leg { $index }
surface-of-leg = Surface of leg { $index }
remove-leg-index = Remove leg { $index }
add-a-leg = Add a leg

## LoopReadings.tsx

readings-like = { $asks }. Like 1720; 1716 m; 1.07 mi
work-out-the-length = Work out the length
m-95-to-m = { $measure } m, 95%: { $low } to { $high } m

## useRemoveRoute.ts

the-route = The route

## RouteDialog.tsx

change-route = Change { $route }
measure-a-loop = Measure a loop
add-a-route = Add a route

## RouteSketch.tsx

total-from-low-to-high = { $total }, from { $low } to { $high } { $height_unit }
height-profile-said = Height profile: { $said }

## TrackDialog.tsx

up-and-down-in-legs =
    { $length_m }, { $ascent_m } { $height_unit } up and { $descent_m } down, in { $count } legs. Heights are
    smoothed, and a climb counts from 10 m on.

## RoutesPage.tsx

import-gpx = Import GPX
no-route-yet-import-a =
    No route yet. Import a GPX file, measure a loop, or give a road’s legs with their lengths and climbs.
open = Open
a-measured-lap = a measured lap
count-legs = { $count } legs
a-track = a track
ascent-m-height-unit-up = { $ascent_m } { $height_unit } up
