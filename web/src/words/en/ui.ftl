### Words of ui.

## useTitle.ts

place-limpet = { $place } · Limpet

## Page.tsx

this-page = This page
youre-offline-needs-a-signal = You’re offline. { $place } needs a signal.
try-again = Try again
not-found = Not found
there-is-no-page-at = There is no page at this address.
it-may-have-been-mistyped = It may have been mistyped, or what stood here was removed.
ways-on = Ways on
find-it-by-name = Find it by name
loading = Loading

## notes.tsx

what-is-removed = { $what } is removed.
what-is-back = { $what } is back.
undo = Undo

## Explained.tsx

all-terms = All terms

## Dialog.tsx

not-saved-yet-save-keeps = Not saved yet: Save keeps it, Cancel discards it.

## Boundary.tsx

a-part-of-limpet-could = A part of Limpet could not be loaded.
this-part-of-limpet-didnt = This part of Limpet didn’t work.
check-that-limpet-runs-and = Check that Limpet runs and that there is signal, then load the page again.
what-you-saved-is-safe =
    What you saved is safe. Try again. If it fails again, carry on elsewhere and tell whoever runs this
    Limpet.
load-again = Load again
to-the-logbook = To the logbook
