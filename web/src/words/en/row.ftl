### Words of row.

## LogbookRow.tsx

being-worked-out = being worked out
not-worked-out = not worked out
choose-title = Choose { $title }
under-way = under way
in-between = in between
