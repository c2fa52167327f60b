"""The columns of the two tables, with the unit that each name ends in, in words."""

from __future__ import annotations

#: samples.csv: name → what it holds. All are numbers.
SAMPLE_COLUMNS: dict[str, str] = {
    "time_s": "Seconds since started_at, strictly increasing [s]",
    "voltage_v": "Pack voltage [V]",
    "current_a": "Pack current, positive when discharging [A]",
    "charge_ah": "The meter's own running charge counter [Ah]",
    "energy_wh": "The meter's own running energy counter [Wh]",
    "speed_mps": "Speed over ground [m/s]",
    "distance_m": "Running distance [m]",
    "latitude_deg": "Latitude, WGS 84 [deg]",
    "longitude_deg": "Longitude, WGS 84 [deg]",
    "altitude_m": "Height [m]",
    "battery_temp_c": "Pack temperature [degC]",
    "motor_temp_c": "Motor temperature [degC]",
    "controller_temp_c": "Controller temperature [degC]",
    "cell_min_v": "Voltage of the lowest cell [V]",
    "gauge": "What the vehicle's own gauge shows, in its own steps",
}

#: entries.csv: name → what it holds.
ENTRY_COLUMNS: dict[str, str] = {
    "time_s": "Seconds since started_at [s]",
    "kind": "start, checkpoint, lap, stop, resume, turn, swap, event, settle or end",
    "trip_m": "Trip meter [m]",
    "gps_m": "Distance shown by a GPS track [m]",
    "odometer_m": "Odometer [m]",
    "laps": "Completed laps, a decimal for a part lap",
    "voltage_rest_v": "Pack voltage standing still, throttle closed [V]",
    "voltage_load_v": "Pack voltage while pulling [V]",
    "current_a": "Pack current, positive when discharging [A]",
    "charge_ah": "The meter's own running charge counter [Ah]",
    "energy_wh": "The meter's own running energy counter [Wh]",
    "gauge": "What the vehicle's own gauge shows, in its own steps",
    "speed_mps": "Speed held [m/s]",
    "battery_temp_c": "Pack temperature [degC]",
    "motor_temp_c": "Motor temperature [degC]",
    "mode": "Riding mode",
    "note": "Anything else",
}
ENTRY_TEXT = frozenset({"kind", "mode", "note"})
