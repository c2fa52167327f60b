### Words of ride.

## AskGauge.tsx

bars = Bars
dots = Dots
percent = Percent
what-does-this-vehicles-gauge = What does this vehicle’s gauge show?
how-many-when-it-is = How many { $kind } when it is full?

## GaugeKeys.tsx

how-many-s-are-lit =
    { $kind ->
        [dots] How many dots are lit
       *[bars] How many bars are lit
    }
so-many-lit =
    { $kind ->
        [dots]
            { $count ->
                [one] 1 dot
               *[other] { $count } dots
            }
       *[bars]
            { $count ->
                [one] 1 bar
               *[other] { $count } bars
            }
    }

## Keys.tsx

digits = Digits

## MoreFields.tsx

measure-resistance-resting-then-full = Measure resistance (resting, then full throttle)
another-reading = Another reading

## steps.ts

an-entry-has-no = an entry has no { $name }
v-is-more-than-this = { $value } V is more than this pack can have ({ $most_v } V). Check the point.

## padWords.ts

standing-throttle-closed = Standing, throttle closed
under-load-let-somebody-else = Under load; let somebody else read it
n-1-of-3-throttle-closed = 1 of 3. Throttle closed: wait until the volts stand still, then read.
n-2-of-3-where-it =
    2 of 3. Where it is safe, pull hard on the level for five seconds; somebody else reads, or a picture.
n-3-of-3-the-amps = 3 of 3. The amps while it pulled, where the display has them.

## PadSteps.tsx

what-to-read = What to read
volts = Volts
more = More

## SheetFoot.tsx

back = Back

## EntryPad.tsx

last-shown-with-unit-opened = last { $shown_with_unit }, { $opened_at }
taken-as-tap-for-as = Read as { $taken } { $unit }. Tap to keep { $typed } { $unit } as typed
previous = Previous
same-as-last = Same as last
skip = Skip
next = Next
how-the-volts-are-read = How the volts are read
throttle-closed = Throttle closed
under-load = Under load

## events.ts

turned-round = Turned round
at-a-place = At a place
by-name = by name
walked = Walked
how-far = how far
which = which
pedalled = Pedalled
since-the-last-entry = since the last entry
wind = Wind
how-strong-now = how strong now
rain = Rain
began-or-ended = began or ended
range-shown = Range shown
what-the-display-shows = what the display shows
tracker-off = Tracker off
for-how-far = for how far
switched-packs = Switched packs
charged = Charged
watt-hours = watt-hours
how-long = how long
settled = Settled
resting-volts = resting volts
overnight = Overnight
parked-till-morning = parked till morning
warning-light = Warning light
power-cut = Power cut
tilt-back = Tilt-back
overheated = Overheated
it-beeps = It beeps
it-cut-its-speed = It cut its speed
puncture = Puncture
fall = Fall
something-else = Something else
in-words = in words

## moved.ts

cut-off-moved-from-to = Cut-off moved from { $from } to { $to } because of { $cause_of }
your-correction = your correction
the-label = the { $label }
what-you-changed = what you changed
what-you-noted = what you noted
the-distance = the distance

## planned.ts

read-the-resting-volts = Read the resting volts
throttle-closed-pack-rested-then = Throttle closed, pack rested. Then { $far } to ride.
enough-at-far = enough at { $far }
turn-by-far = Turn by { $far }
turn-at-far = Turn at { $far }
far-to-go = { $far } to go
enough-you-can-end-here = Enough: you can end here
the-range-is-known-well = The range is known well
enough-at-far-title = Enough at { $far }
then-let-it-rest-and = then let it rest and read the volts
youre-there = You’re there
let-the-pack-rest-read = Let the pack rest, read the volts, then tap End.
next-entry-at = Next entry at { $distance_words }

## shown.ts

ended = Ended
the-result-is-in-the = The result is in the logbook.
keep-going-and-take-another = Keep going and take another reading
the-answer-comes-when-there = The answer comes when there is a signal.
trip-meter = trip meter
odometer = odometer
gps = GPS
much = much
little = little
name-reads-shown-by-too = { $name } reads { $shown }: { $by }% too { $off }

## RideFigures.tsx

so-far = so far
count-entries =
    { $count ->
        [one] 1 entry
       *[other] { $count } entries
    }
when-there-is-a-signal = when there is a signal
not-yet = not yet
last-describe-entry = Last: { $describe_entry }
gauge-value = gauge { $value }
value-of-steps-kind = { $value } of { $steps } { $kind }
picture = picture

## SettleTimer.tsx

throttle-closed-it-buzzes-when =
    <b>{ $minutes }:{ $seconds }</b> throttle closed; it buzzes when the volts have settled
let-the-pack-rest = Let the pack rest
let-the-pack-rest-for = Let the pack rest:
read-the-resting-volts-now = Read the resting volts now. Again:

## EndSheet.tsx

what-stopped-you = What stopped you
more-fields = More fields
end-the-ride = End the ride

## EventSheet.tsx

what-happened = What happened
where-it-comes-from = Where it comes from
event-its-name = { $event }: its name
named-before = Named before

## NowLine.tsx

it-depends-on-a-reading = It depends on a reading that is questioned below
left-forecast-to = { $left } left, forecast { $low } to { $high }: { $words }
why-and-what-else = Why, and what else?
with-your-last-entry = With your last entry, { $age }
worked-out-on-this-phone = Worked out on this phone from start values: a wide guess
worked-out-on-this-phone-last-answer = Worked out on this phone, last answer { $age }
worked-out-here = Worked out on this phone
from-before-what-you-just = From { $age }, before what you just noted · { $waits }
working-it-out = working it out
no-signal = no signal
the-server-has-a-problem = the server has a problem
signed-out = signed out

## WaySheet.tsx

distance-to-go = Distance to go
climb-ahead = Climb ahead
empty-as-usual = Empty: as usual
as-planned = As planned
back-along-the-same-route = Back along the same route
laps-so-far = Laps, { $laps } so far
another-distance = Another distance …
use-this-distance = Use this distance

## NowSheet.tsx

once-there-is-a-signal = Once there is a signal, Limpet shows which one fits least.
energy-left-here = Energy left
left-low-to-high = { $left }, { $low } to { $high }
distance-before-the-reserve = Distance before the reserve
range-known-to = Range known to
what-to-read-next = What to read next: { $more }.
what-you-could-do = What you could do
option = option
home-with-left = home with { $reserve } left
home-at-all = home at all
no-charge-needed = no charge needed
swap-in-the-spare-pack = swap in the spare pack, if it is full
get-a-lift-from-here = get a lift from here
speed-mps-from-here = { $speed_mps } from here
charge-first-wh = charge { $charge_s } first, { $charge_wh } Wh
walk-the-last = walk the last { $walk_m }
to-the-end-of-lap = to the end of lap { $laps }
carry-on-as-now = carry on as now
would-narrow-the-energy-left = { $label } would narrow the energy left from ±{ $now } to ±{ $after }
ridden = Ridden
left-at-the-end = Left at the end

## useTrack.ts

the-browser-gives-no-position = The browser gives no position on this page; it needs a secure connection.
this-device-couldnt-save-the = This device couldn’t save the track. Free some space.
position-is-blocked-allow-it = Position is blocked: allow it in the browser’s settings for this page.
no-position-just-now-still = No position just now; still trying.

## RideMenu.tsx

sunlight = Sunlight
light = Light
dark = Dark
theme = Theme
record-my-track = Record my track
a-fix-every-s-while =
    A fix every { $every_s } s while this page is open. It costs some 5% of a phone’s battery an hour, more
    with the screen on. While the screen is locked there is a gap, and Limpet knows it.
speak = Speak
alerts-are-spoken-as-well = Alerts are spoken as well as felt.
keep-the-screen-on = Keep the screen on
while-this-page-is-open = While this page is open.
the-sheet-pack-rider-tyres = The sheet: pack, rider, tyres, weather
the-result-so-far = The result so far
leave-this-page-the-ride = Leave this page; the ride goes on
a-new-version-is-ready = A new version is ready. You can update after this ride.

## RidePad.tsx

first-entry = First entry
entry = Entry
when-standing-or-take-a = when standing; or take a photo
volts-trip-gauge = volts, trip, gauge
lap = Lap
laps-so-far-key =
    { $laps ->
        [0] none yet
       *[other] { $laps } so far
    }
stop = Stop
event = Event
end = End
photo = Photo
display = display
picture-of-the-display = Picture of the display
read-the-result = Read the result
after-a-rest = After a rest
volts-where-you-limped-to = volts; where you limped to
ride-on = Ride on
carry-on-the-ride = carry on the ride

## UnsentSheet.tsx

being-sent = being sent
it-is-being-sent = It is being sent.
limpet-isnt-answering-no-signal =
    Limpet isn’t answering: no signal, or it isn’t running. Your phone keeps trying.
limpet-has-a-problem-at = Limpet has a problem at the moment. Your phone keeps trying.
you-have-been-signed-out = You have been signed out. Only the password is missing.
everything-you-noted-is-saved = Everything you noted is saved.
waiting-on-this-phone = { $describe }, waiting on this phone
send-now = Send now
here = Here:
there = There:
keep-this-one = Keep this one
keep-that-one = Keep that one
not-saved = Not saved:
correct = Correct
send-again = Send again
a-piece-of-track = a piece of track
a-picture = a picture
the-start = the start
an-entry-removed = an entry removed
the-end = the end
a-change-of-the-sheet = a change of the sheet

## useAlerts.ts

time-for-an-entry-stop = Time for an entry: stop where it is safe.

## RidePage.tsx

this-ride-is-not-on = This ride is not on this device, and there is no signal.
to-the-rides = To the rides
the-entry-word-of = The entry “{ $word_of }”
correct-an-entry = Correct an entry
before-the-first-metre = Before the first metre
what-happened-asked = What happened?
what-stopped-you-asked = What stopped you?
on-this-device = On this device
this-ride = This ride
leave-title = Leave { $title }
menu = Menu
before-you-go-of-done = Before you go: { $done } of { $all } done
did-you-turn-back = Did you turn back?
yes-i-turned = Yes, I turned
not-yet-answer = Not yet
yes-thats-right = Yes, that’s right
not-saved-tap-to-correct =
    { $count ->
        [one] An entry was
       *[other] { $count } entries were
    } not saved: { $refused } Tap to correct it.
length-waiting = , { $length } waiting
count-not-saved-waiting = { $count } not saved{ $waiting }
all-saved-or-waiting =
    { $length ->
        [0] All saved
       *[other] { $length } waiting on this phone, { $why }
    }

## StorageWord.tsx

if-this-device-runs-out =
    If this device runs out of room, the browser may delete entries that are not sent yet. Keep some space
    free, or install Limpet: browsers seldom delete an installed app’s data.
this-window-saves-nothing-on =
    This window saves nothing on the device, perhaps because it is a private one: without a signal entries
    would be lost. Open Limpet in an ordinary window before you ride.
there-is-hardly-any-room =
    There is hardly any room left on this device: free some before you ride, or entries may not be saved.

## UnderWay.tsx

under-way = Under way
title-begun-at = { $title }, begun { $day } at { $clock }

## RideStartPage.tsx

just-charged = Just charged
not-full = Not full
dont-know = Don’t know
log-a-ride = Log a ride.
plan-it-first = Plan it first
planned = Planned
start-name = Start: { $name }
start = Start
start-with-and = Start with { $vehicle_name } and { $pack_name }
ride-name = Ride name
is-it-full = Is it full?
just-charged-off-its-charger = Just charged: off its charger within the hour
how-many-packs = How many packs
how-they-are-used = How they are used
