### Words of roadside.

## SavedHere.tsx

saved-here = saved here
nothing-is-saved-on-this = Nothing is saved on this device yet.
saved-on-this-device = Saved on this device
title-under-way = { $title } (under way)

## picture.ts

this-picture-cannot-be-made = this picture cannot be made small enough

## room.ts

this-phone-is-out-of = This phone is out of room, so that was not saved. Free some space, then tap again.
that-could-not-be-saved = That could not be saved on this phone. Close other tabs of Limpet, then tap again.
