### Why a column of a stranger's log is taken for what it is taken for, and what is not sure.

look_by_name = By its name.
look_by_unit = By its unit, { $unit }.
look_by_values = By its values alone: nothing names it.
look_of_several = The plainest of { FIXED($count, digits: 0) } columns like it.
look_pack = Its values are what { FIXED($series, digits: 0) } cells in series show.
look_cell = Its values are what one cell shows.
look_cells_sum = It is the sum of the { FIXED($count, digits: 0) } cells.
look_size = By the size of its values, about { PLAIN($value) }.
look_product = Volts times amps are the watts.
look_sum = It runs as the sum of { $of } over time.
look_slope = It goes with { $of }.
look_falls = It counts down: what is left, not what was used.
look_backwards = It was negative while riding, so its sign is changed.
look_some_temperature = It doesn’t say of what; taken as the pack’s.
look_dates = It holds dates with a time of day.
look_date_and_clock = One column holds the date, the other the time of day.
look_clock = It holds a time of day, or a ride’s own clock.
look_epoch = It counts from 1970, in { $unit }.
look_days = It holds a spreadsheet’s dates.
look_rises = It rises from row to row.
look_no_heading = Please check every column: this table has no heading, so only their values say what they are.
look_nothing = Please choose at least one column: none of their names is known.
look_two = Please check { $name }: { $other } could be meant too, and the two differ.
look_odd_size = Please check { $name }: about { PLAIN($value) } is no usual value. Is its unit right?
look_unit_unsure = Please check the unit of { $name }: the file doesn’t say it.
look_not_the_sum = Please check { $name }: it doesn’t run as the sum of the other readings.
look_way_apart = Please check { $name }: it doesn’t go with the distance or the track.
look_odd_consumption =
    Please check the units: these columns make { CONSUMPTION($wh_per_km) }, and no such vehicle uses that.
look_decimal = Please check the decimal mark: a { $mark } could part thousands here.
look_day_month = Please check the date: day and month could be the other way round.
look_minutes = Please check the time: these could be minutes and seconds, or hours and minutes.
look_time_unit = Please check the unit of { $name }: taken as { $unit }, by how it rises.
look_leap =
    Please check the track: it leaps { DISTANCE($leap_m) } at once, farther than anything rides. The points beyond can be left out.
look_other_pack = Please check the pack: { FIXED($series, digits: 0) } cells in series never show { FIXED($voltage_v, digits: 1) } V.
match_sure = Sure: { $what } agree best here, and nowhere else nearly as well.
match_unsure = Not sure: { $what } agree about as well elsewhere. Please check it on the curves.
