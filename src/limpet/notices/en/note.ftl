### What was done with what was given.

held_back = { FIRST($what) } came at { DISTANCE($at_m) }.
rained = It rained from { DISTANCE($at_m) } on: a wet road uses more. Compare it with other wet rides.
stood_overnight =
    It stood overnight at { DISTANCE($at_m) }. What the pack lost while it stood, and what the cold kept back in the morning,
    counts as used on the ride.
mode_took = { FIRST($mode) } mode: { CONSUMPTION($wh_per_km) } over { DISTANCE($length_m) }.
reserve_assumed = No reserve was set; { PERCENT($reserve) } is kept.
own_assumptions = Assumed differently from the usual, as set in this account: { $names }.
limp_distance = You rode { LENGTH($limp_m) } after the end; that is left out of the range.
height_corrected =
    The ride ended { LENGTH($height_m) } { $side } its start. The range is for rides as hilly as this that end where they began,
    so { FIXED($set_aside_wh, digits: 0) } Wh are set aside for the height.
level_range =
    On level roads this pack would go { DISTANCE($range_m) }: the hills cost { FIXED($lost_wh, digits: 0) } Wh on this ride.
sample_gap =
    The samples have a gap of { FIXED($gap_s, digits: 0) } s at { FIXED($time_s, digits: 0) } s;
    { FIXED($filled_wh, digits: 1) } Wh were filled in from { FILLED($source) }.
slow_to_not_needed = No need to ride slower: the trip works as planned.
colder_than_table = Below { TEMPERATURE($limit_c) } the pack is treated as at that temperature, which flatters it.
no_heights = { $file } has no heights: the route is treated as flat. A hilly one will use more.
heights_filled = { $file }: { PERCENT($share) } of the heights are missing and were filled in from those around them.
empty_cells =
    { $file }: { $count ->
        [one] 1 empty cell
       *[other] { FIXED($count, digits: 0) } empty cells
    } taken as not known.
not_a_number =
    { $file }: { $count ->
        [one] 1 NaN cell
       *[other] { FIXED($count, digits: 0) } NaN cells
    } taken as not known.
kind_missing = { $file }: { $count } without a kind taken as checkpoint.
times_filled =
    { $file }: { $count ->
        [one] 1 entry without a time was
       *[other] { FIXED($count, digits: 0) } entries without a time were
    } placed by distance.
current_flipped = { $file }: current_a was negative for discharge, so its sign was changed.
duplicate_rows =
    { $file }: { $count ->
        [one] 1 exact duplicate row
       *[other] { FIXED($count, digits: 0) } exact duplicate rows
    } left out.
broken_last_line = { $file }: the last line broke off and was left out.
unknown_columns = { $file }: saved but not used: { $names }.
unknown_fields = { $file }: saved but not used: { $names }.
odd_photo = The picture { $name } was left out: it { $why }.
unknown_files = Files left out, because they are not part of a test: { $names }.
semicolons = { $file }: read with { $how }; commas and points are the standard.
claim_not_possible =
    Not physically possible at { SPEED($speed_mps) }: the figure leaves { CONSUMPTION($implied_wh_per_km) }, and even a
    tucked-in rider on the best tyres needs { CONSUMPTION($least_wh_per_km) }. It would take { SPEED($needed_mps) } or less.
claim_not_possible_on_label =
    Not physically possible at { SPEED($speed_mps) }, unless the pack holds more than its label says: the figure leaves
    { CONSUMPTION($implied_wh_per_km) }. Even a tucked-in rider on the best tyres needs { CONSUMPTION($least_wh_per_km) }. It
    would take { SPEED($needed_mps) } or less.
claim_never_possible =
    Not physically possible at { SPEED($speed_mps) }: the figure leaves { CONSUMPTION($implied_wh_per_km) }, and even a
    tucked-in rider on the best tyres needs { CONSUMPTION($least_wh_per_km) }. No speed would do: rolling alone uses more.
size_refused =
    { $pack } won’t do: each cell would give up to { FIXED($peak_a, digits: 1) } A, and it is rated for { PLAIN($rated_a) } A.
    { PLAIN($least) } or more cells in parallel would do.
size_too_small =
    { $pack } is too small: it arrives with the reserve left in { CHANCE($chance_pct) } of 100 cases. You need about
    { FIXED($needed_wh, digits: 0) } Wh on the label.
size_fits =
    { $pack } makes the trip in { CHANCE($chance_pct) } of 100 cases with { PERCENT($reserve) } left, and still does at
    { PERCENT($left) } of its capacity.
size_fits_but_sags =
    { $pack } makes the trip in { CHANCE($chance_pct) } of 100 cases with { PERCENT($reserve) } left, and still does at
    { PERCENT($left) } of its capacity. Under the hardest pull its volts sag by { PERCENT($sag) }, so expect it to fade early.
claim_up_to =
    It can be true up to { SPEED($needed_mps) }, for a light, tucked-in rider: it leaves { CONSUMPTION($implied_wh_per_km) }.
    With ordinary stops and hills such a vehicle uses about { CONSUMPTION($usual_wh_per_km, unit: "no") } at
    { SPEED($speed_mps) }.
claim_gentle =
    Possible for a light rider who rides gently: it leaves { CONSUMPTION($implied_wh_per_km) }. At { SPEED($speed_mps) } with
    stops and hills { CONSUMPTION($usual_wh_per_km, unit: "no") } is usual, { CONSUMPTION($least_wh_per_km, unit: "no") } the
    least.
claim_fair =
    Fair: it leaves { CONSUMPTION($implied_wh_per_km) }. Such a vehicle usually uses about
    { CONSUMPTION($usual_wh_per_km, unit: "no") } at { SPEED($speed_mps) }, stops and hills included.
claim_modest =
    Modest: it leaves { CONSUMPTION($implied_wh_per_km) }. Such a vehicle usually uses about
    { CONSUMPTION($usual_wh_per_km, unit: "no") } at { SPEED($speed_mps) }, stops and hills included. Expect to go further.

## What was saved in words by a version that knew another list.

as_kept = { $text }
headings_again =
    { $file }: { $count ->
        [one] 1 heading in the middle was
       *[other] { FIXED($count, digits: 0) } headings in the middle were
    } left out.
rows_without_time =
    { $file }: { $count ->
        [one] 1 row without a time was
       *[other] { FIXED($count, digits: 0) } rows without a time were
    } left out.
rows_out_of_order =
    { $file }: { $count ->
        [one] 1 row whose time runs backwards was
       *[other] { FIXED($count, digits: 0) } rows whose time runs backwards were
    } left out.
newest_first = { $file }: the newest row stood first, so the rows were turned round.
over_midnight = { $file }: the clock passed midnight, so the rows after it are of the next day.
summer_time = { $file }: the clock was changed by an hour on the way, which is allowed for.
clock_anew =
    { $file }: the clock began again { $count ->
        [one] once
       *[other] { FIXED($count, digits: 0) } times
    }. What came after is put straight behind what came before: how long the pause was isn’t known.
times_spread =
    { $file }: { $count ->
        [one] 1 row has
       *[other] { FIXED($count, digits: 0) } rows have
    } the time of the row before, and were spread evenly up to the next one.
words_for_numbers =
    { $file }: { $count ->
        [one] 1 cell of { $name } is no number and was
       *[other] { FIXED($count, digits: 0) } cells of { $name } are no numbers and were
    } taken as not known.
odd_values =
    { $file }: { $count ->
        [one] 1 value of { $name } that no ride can have was
       *[other] { FIXED($count, digits: 0) } values of { $name } that no ride can have were
    } left out.
columns_aside = { $file }: not used: { $names }.
packs_together = { $file }: { FIXED($count, digits: 0) } packs are taken together.
cells_logged =
    { $file }: { FIXED($count, digits: 0) } cells were logged; from lowest to highest they lie { FIXED($spread_v, digits: 3) } V
    apart.
volts_from_cells = { $file }: the pack’s volts are the sum of its { FIXED($count, digits: 0) } cells.
amps_from_watts = { $file }: the amps are worked out from watts and volts.
energy_from_watts = { $file }: the watt-hours are the sum of the watts over time.
returned_taken_off = { $file }: what was charged on the way was taken off { $name }.
fixes_without_place =
    { $file }: { $count ->
        [one] 1 point without a place was
       *[other] { FIXED($count, digits: 0) } points without a place were
    } left out.
fixes_without_time =
    { $file }: { $count ->
        [one] 1 point without a time was
       *[other] { FIXED($count, digits: 0) } points without a time were
    } left out.
track_damaged = { $file } is damaged: please check where its track ends.
fixes_backwards =
    { $file }: { $count ->
        [one] 1 point whose time doesn’t rise was
       *[other] { FIXED($count, digits: 0) } points whose time doesn’t rise were
    } left out.
fixes_still_clock = { $file }: its times don’t rise, so they are left aside.
fixes_beyond_leap =
    { $file }: { $count ->
        [one] 1 point beyond a leap was
       *[other] { FIXED($count, digits: 0) } points beyond a leap were
    } left out.
track_cut = { $file }: { FIXED($count, digits: 0) } points near home were cut off before anything was saved.
sentences_damaged =
    { $file }: { $count ->
        [one] 1 damaged line was
       *[other] { FIXED($count, digits: 0) } damaged lines were
    } left out.
records_odd =
    { $count ->
        [one] 1 row is left out
       *[other] { FIXED($count, digits: 0) } rows are left out
    }: see what each of them lacks.
