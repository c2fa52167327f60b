### Words of shell.

## NewDevices.tsx

signed-in-to-this-account =
    { $kind ->
        [phone] A phone
       *[other] A computer
    }{ $more ->
        [0] { "" }
       *[other] { " " }and { $more } more
    } signed in to this account on { $made_at }. Not you? <a>Sign it out</a>
it-was-me = It was me

## Palette.tsx

nothing-by-that-name = Nothing by that name
a-place-or-a-test = A place or a test
find-a-place-or-a = Find a place or a test

## ShortcutList.tsx

this-list = This list
shortcuts = Shortcuts

## UnitsDialog.tsx

settings = Settings
theme = Theme
as-the-device = As the device
light = Light
dark = Dark

## UpdateBar.tsx

a-new-version-of-limpet = A new version of Limpet is ready.
update-now = Update now

## Shell.tsx

skip-to-the-content = Skip to the content
youre-offline-what-you-note =
    You’re offline. What you note on a ride is saved on this phone and sent when the signal is back.
places = Places
limpet-to-the-logbook = Limpet, to the logbook
find-ctrl-k = Find · Ctrl K
demo-rider = Demo rider
more = More
api = API
reset-the-demo = Reset the demo
password = Password
sign-out = Sign out
resetting-the-demo-this-takes = Resetting the demo; this takes a few seconds.
