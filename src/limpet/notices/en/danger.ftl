### What must not be repeated. One sentence to do first, then why.

overheated_now = It overheated. Stop, let it cool and find out why. Don’t ride on while it is hot.
tilts_back = Get off: it has begun to tilt back. The pack can’t hold you up much longer. Walk, charge or get a lift.
cell_below_floor =
    Stop sooner next time: a cell was at { FIXED($cell_v, digits: 2) } V under load, below the
    { PLAIN($floor_v) } V floor of { CHEMISTRY($chemistry) }. Charge gently and stay with it. If it happens again, have the pack
    checked by a qualified person.
pack_hot =
    Stop sooner next time: the pack reached { TEMPERATURE($pack_c) }. Above { TEMPERATURE($limit_c) } stop and let it cool
    in the open. Don’t charge it hot.
cold_charge =
    It was { TEMPERATURE($air_c) } at the end. Don’t charge a lithium pack below { TEMPERATURE($limit_c) }: let it warm up
    indoors first.
cold_day =
    Don’t charge a lithium pack at { TEMPERATURE($air_c) }: let it warm up indoors first. Keep it warm until you start; a
    warm pack gives more.
cutoff_below_floor =
    Stop before the cut-off. { PLAIN($cutoff_v) } V is { FIXED($cell_v, digits: 2) } V a cell, below the { PLAIN($floor_v) } V
    where { CHEMISTRY($chemistry) } is harmed.
storm = Choose another day: wind of { SPEED($wind_mps) } can push a light vehicle off its line.
regeneration_when_full =
    Start below 90%, and trust the brakes. The route drops { LENGTH($fall_m) } soon after the start: a full pack can’t take
    energy back, and its protection may trip.
high_current =
    The trip needs up to { FIXED($current_a, digits: 0) } A, { FIXED($rate_per_h, digits: 1) } times the pack’s amp-hours.
    Check that the cells and the BMS are rated for it.
