### Words of ground.

## grounds.ts

the-ground-of-this-map = The background of this map didn’t load.

## GroundMap.tsx

hold-ctrl-and-scroll-to = Hold Ctrl and scroll to zoom.
hold-and-scroll-to-zoom = Hold ⌘ and scroll to zoom.
move-the-map-with-two = Move the map with two fingers.
closer = Closer
further-off = Further off
whole-ride = Whole ride
the-lines-stand-apart = Grid lines are { $step_m } { $distance } apart.
