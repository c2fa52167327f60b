### Words of entries.

## EntryPhoto.tsx

what-the-display-showed = What the display showed
picture = picture

## EntryDialog.tsx

entry-saved = Entry saved.
change-an-entry = Change an entry
add-an-entry = Add an entry
what-happened = What happened
time = Time
minutes-since-the-start = Minutes since the start
write-it-like-42-5 = write it like 42.5
event = Event
what-it-was = What it was
the-same-name-is-the = The same name is the same place
as-the-display-calls-it = As the display calls it

## EntryCell.tsx

may-be-mistyped = May be mistyped

## History.tsx

changed-changes =
    { $changes ->
        [one] changed once
       *[other] changed { $changes } times
    }
before-what-said = before { $what }: { $said }
no-reading = no reading

## useConfirm.ts

marked-as-right = Marked as right.

## EntryGrid.tsx

clock = clock
note-column = note
what-can-be-done = actions
from-the-start = { $time_s } from the start
thats-right = That’s right
change-the-entry-at = Change the entry at { $started_at }
remove-the-entry-at = Remove the entry at { $started_at }

## useRemoveEntry.ts

the-entry-kind-words = The entry “{ $kind_words }”
