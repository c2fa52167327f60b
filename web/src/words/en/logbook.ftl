### Words of logbook.

## filter.ts

newest-first = Newest first
oldest-first = Oldest first
by-vehicle = By vehicle
by-pack = By pack
lowest-consumption = Lowest consumption
longest-range = Longest range
by-title = By title
december-to-february = December to February
march-to-may = March to May
june-to-august = June to August
september-to-november = September to November
vehicle-not-named = Vehicle not named
pack-not-named = Pack not named

## LogbookFilters.tsx

all-vehicles = All vehicles
all-packs = All packs
order = Order
fewer-filters = Fewer filters
set-set = { " " }({ $set } set)
more-filters-set = More filters{ $set }
tests-tests = { $tests } tests
count-of-tests = { $count } of { $tests }
question = Question
all-questions = All questions
season = Season
all-seasons = All seasons
ended = Ended
any-ending = Any ending
all-riders = All riders
tag = Tag
all-tags = All tags
search = Search
title-pack-rider = Title, pack, rider

## LogbookScale.tsx

range-to-cut-off = range to cut-off

## NothingYet.tsx

log-or-import-a-ride = Log or import a ride
one-ride-with-a-full =
    One ride with a full pack and a few notes on the way: resting volts before and after, and the trip meter.
    That is enough for watt-hours per mile.
log-live = Log live
import-a-loggers-file-or = Import a logger’s file or a bundle
plan-one = Plan one
choose-the-question-and-see =
    Choose the question, and see before you leave where the ride will end, where to turn and what to note.
will-my-pack-do-a = Will my pack do a trip?
look-round-the-demo = Look round the demo
a-made-up-island-with =
    A made-up island with its rides, and five cards that show what a result says. You are signed out of your
    account until you sign in again.
open-the-demo = Open the demo

## Selection.tsx

one-test = One test
count-tests = { $count } tests
chosen-tests = Chosen tests
the-most-at-once = { " " }(the most at once)
count-chosen = { $count } chosen{ $most }
export = Export
clear-the-choice = Clear the choice

## WalkOffer.tsx

a-short-walk = A short walk
new-here-five-cards-show = New here? Five cards show what a result says, on “{ $title }”.
begin-the-walk = Begin the walk
no-thanks = No, thanks

## ImportDialog.tsx


## LogbookPage.tsx

logbook = Logbook
import = Import
no-test-fits-these-filters = No test fits these filters.
more-rows-are-coming = More rows are coming.
no-tests-yet = No tests yet.
ridden-to-the-end-of = <b>{ $tests }</b>, { $measured } ridden to the end of the pack. All on one scale.
