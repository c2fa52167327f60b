### Words of sheet.

## sheet.ts

yes = yes
no-here = no

## SheetSection.tsx

sheet = Sheet
what-was-tested-and-how = What was tested, and how
label-of-part-history = { $label_of_part }: history
history = history
add = Add
put-back-the-result-follows = Put back. The result follows.
changed-count-times =
    { $count ->
        [one] Changed once
       *[other] Changed { $count } times
    }
not-saved-it-was-changed = , not saved: it was changed meanwhile
undo = Undo
use-this-one = Use this one

## PackSaid.tsx

the-pack-in-your-words = The pack in your words
label-such-as = 52 V 24 Ah, 2.7 kWh, or 10s3p of 3.0 Ah cells
what-it-says-fills-the = What it says fills the fields below.
limpet-didnt-understand-that-write =
    Limpet didn’t understand that. Write it like 52 V 24 Ah, or fill the fields below.
taken = { " " }(assumed)
cells-in-series = { $series } cells in series{ $includes }
not-understood-left = { " " }Not understood: { $left }.
understood-said-left = Understood: { $said }.{ $left }

## SheetItemInput.tsx

yes-choice = Yes
a-word-and-enter = A word and Enter

## SheetDialog.tsx

saved-the-result-follows = { $label_of_part }: saved. The result follows.
row-there-before-here-after = { $row }: there { $before }, here { $after }
take-theirs = Take theirs
save-mine-over-it = Save mine over it
