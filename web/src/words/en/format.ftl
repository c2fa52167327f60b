### Words of format.

## words.ts

start = start
entry = entry
lap = lap
stop = stop
go-on-here = go on
turn = turn
pack-swap = pack swap
event = event
settled = settled
end = end
not-possible = not possible
gentle-and-light-only = gentle and light only
up-to-a-speed = up to a speed
fair = fair
modest = modest

## units.ts

wind-metres-per-second = wind { $metres_per_second }
span-low-to-high = { $low } to { $high }
over-99 = over 99%
under-one-percent = under 1%
just-now = just now
seconds-ago = { $seconds } ago
undated = undated

## limp.ts

slows-when-low = Slows when low: { $limp_text }

## inputs.ts

half-to-one-and-a = half to one and a half
swing-from-to = { $from } to { $to }
