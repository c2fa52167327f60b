### A pack's life: what it gives now, and when to test it again. What stands between asterisks is the heart of it.

life_left = It gives *{ PERCENT($share) } of { $of }* ({ PERCENT($low) } to { PERCENT($high) }).
life_left_level =
    { "*No measurable loss so far*" }: it gives { PERCENT($share) } of { $of } ({ PERCENT($low) } to { PERCENT($high) }).
drift_gauge =
    Each year the same step of the gauge means *{ PERCENT($share) } of a full pack { $way }* ({ PERCENT($low) } to
    { PERCENT($high) }).
drift_gauge_none =
    The gauge means what it always did. A drift of over { PERCENT($seen) } of a full pack a year would have shown.
drift_factor =
    It shows *{ PERCENT($share) } { $way } each year* ({ PERCENT($low) } to { PERCENT($high) }). A tyre wears, or was
    changed.
drift_factor_none = It shows what it always did. A drift of over { PERCENT($seen) } a year would have shown.
again_no_capacity =
    No test has shown its capacity yet. Ride it once to cut-off with amp-hours read, then again next season.
again_in =
    Test it again in about { $months ->
        [one] 1 month
       *[other] { FIXED($months, digits: 0) } months
    }. By then it should have lost more than one test’s ±{ PERCENT($share) } can hide.
again_now =
    Test it again now. The last test that showed its capacity is { $months ->
        [one] 1 month
       *[other] { FIXED($months, digits: 0) } months
    } old; since then it should have lost more than one test’s ±{ PERCENT($share) } can hide.
again_trend = Two tests that show its remaining capacity begin a trend; so far there is { $tests }.
again_steady = No measurable loss so far.
again_usual =
    Too few tests to say when it reaches { PERCENT($share) } of { $of }. Packs like it: within { $high_months ->
        [one] 1 month
       *[other] { FIXED($high_months, digits: 0) } months
    } of the first test.
again_step =
    Don’t charge it unattended; have it looked at by a qualified person. Between { $before } and { $after } it lost
    { PERCENT($share) } at once, so a group of cells may have failed.
again_crosses =
    By its trend it reaches { PERCENT($share) } of { $of } { $months ->
        [one] 1 month
       *[other] { FIXED($months, digits: 0) } months
    } after its first test ({ $low_months } to { $high_months }).
again_crossed =
    By its trend it fell below { PERCENT($share) } of { $of } about { $months ->
        [one] 1 month
       *[other] { FIXED($months, digits: 0) } months
    } after its first test ({ $low_months } to { $high_months }).
