### Words of ground.

## grounds.ts

the-ground-of-this-map = The ground of this map did not come.

## GroundMap.tsx

hold-ctrl-and-scroll-to = Hold Ctrl and scroll to zoom.
hold-and-scroll-to-zoom = Hold ⌘ and scroll to zoom.
move-the-map-with-two = Move the map with two fingers.
closer = Closer
further-off = Further off
whole-ride = Whole ride
the-lines-stand-apart = The lines stand { $step_m } { $distance } apart.
