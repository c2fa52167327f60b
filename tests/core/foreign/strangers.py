"""Logs as strangers' loggers write them, made from a ride whose truth is known. Seeded; all of it made up."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta, timezone

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]
BEGAN = datetime(2026, 5, 14, 9, 12, 0)
SERIES = 13
#: What one of a file's unit is in the core's.
PER = {
    "km": 1000.0, "mi": 1609.344, "m": 1.0, "ft": 0.3048, "km/h": 1 / 3.6, "mph": 0.44704, "m/s": 1.0, "kW": 1000.0, "W": 1.0,
    "kn": 1852 / 3600, "mV": 0.001, "V": 1.0, "mA": 0.001, "A": 1.0, "mAh": 0.001, "Ah": 1.0, "kWh": 1000.0, "Wh": 1.0,
    "%": 1.0, "°": 1.0, "°C": 1.0, "": 1.0, "dV": 0.1, "E7": 1e-7, "share": 100.0,
}  # fmt: skip


def ride(
    rows: int = 1500, step_s: float = 1.0, seed: int = 29, ah: float = 10.4
) -> dict[str, FloatArray]:
    """A ride of half an hour in the core's units: hills, stops, some regeneration, a pack that sags."""
    draw = np.random.default_rng(seed)
    time = np.arange(rows) * step_s
    pace = 5.8 + 1.6 * np.sin(time / 97) + 0.9 * np.sin(time / 31 + 1)
    standing = ((time % 420) > 380) & (time < time[-1] - 60)
    speed = np.where(standing, 0.0, np.clip(pace, 0, None))
    distance = np.concatenate([[0.0], np.cumsum((speed[1:] + speed[:-1]) / 2 * step_s)])
    slope = 0.025 * np.sin(distance / 400)
    altitude = 42 + np.concatenate([[0.0], np.cumsum(slope[1:] * np.diff(distance))])
    watts = np.where(
        standing, 4.0, 24 * speed + 105 * 9.8 * slope * speed + draw.normal(0, 12, rows)
    )
    soc = np.ones(rows)
    amps = np.zeros(rows)
    volts = np.zeros(rows)
    used = 0.0
    for at in range(rows):
        rest = 54.4 - 11.5 * used / ah - 0.25 * np.sin(used)
        amps[at] = watts[at] / rest
        volts[at] = rest - 0.13 * amps[at]
        used += amps[at] * step_s / 3600
        soc[at] = 1 - used / ah
    power = volts * amps
    sums = {name: np.concatenate([[0.0], np.cumsum((rate[1:] + rate[:-1]) / 2 * step_s)]) / 3600 for name, rate in (("charge_ah", amps), ("energy_wh", power))}  # fmt: skip
    bearing = distance / 900
    north = np.cumsum(np.concatenate([[0.0], np.diff(distance)]) * np.cos(bearing))
    east = np.cumsum(np.concatenate([[0.0], np.diff(distance)]) * np.sin(bearing))
    cells = volts / SERIES + draw.normal(0, 0.004, (SERIES, 1)) + 0 * volts
    cells += (volts - cells.sum(axis=0)) / SERIES
    return {
        "time_s": time, "voltage_v": volts, "current_a": amps, "power_w": power, "speed_mps": speed, "distance_m": distance,
        "altitude_m": altitude, "gauge": np.ceil(100 * soc), "battery_temp_c": 21 + time / 400, "motor_temp_c": 30 + 18 * (1 - np.exp(-time / 500)),
        "controller_temp_c": 28 + 9 * (1 - np.exp(-time / 300)), "latitude_deg": 61.2 + north / 111_200, "longitude_deg": -7.4 + east / 53_600,
        **sums, "charge_left_ah": ah - sums["charge_ah"], **{f"cell_{k + 1}": cells[k] for k in range(SERIES)},
    }  # fmt: skip


def track_of(truth: dict[str, FloatArray], *, rows: int = 700, late_s: float = 0.0) -> bytes:
    """The first rows of a ride as a watch saved them, its clock late by so much [s]: GPX 1.1."""
    points = "".join(
        f'<trkpt lat="{truth["latitude_deg"][at]:.7f}" lon="{truth["longitude_deg"][at]:.7f}">'
        f"<ele>{truth['altitude_m'][at]:.1f}</ele>"
        f"<time>{(BEGAN + timedelta(seconds=float(truth['time_s'][at]) + late_s)).isoformat()}Z</time></trkpt>"
        for at in range(rows)
    )
    return f'<?xml version="1.0"?><gpx version="1.1" creator="made up"><trk><trkseg>{points}</trkseg></trk></gpx>'.encode()


@dataclass(frozen=True)
class Col:
    """A column of a file: heading, which truth, in which unit, decimals, and its sign."""

    head: str
    truth: str
    unit: str = ""
    digits: int = 2
    sign: int = 1
    unit_row: str = ""


Clock = Callable[[float], Sequence[str]]


def iso(form: str, *, of: datetime = BEGAN, digits: int = 0, scale: float = 1.0) -> Clock:
    """A clock that writes moments by a pattern of strftime."""

    def said(time_s: float) -> list[str]:
        moment = of + timedelta(seconds=time_s)
        text = moment.strftime(form)
        if digits:
            part = f"{moment.microsecond / 1e6:.{digits}f}"[1:]
            text = text.replace("FRAC", part.lstrip("."))
        return text.split("||")

    return said


def count(scale: float = 1.0, start: float = 0.0, digits: int = 0) -> Clock:
    """A clock that counts."""
    return lambda time_s: [f"{start + time_s * scale:.{digits}f}"]


def hms(start_s: float = 0.0, digits: int = 0) -> Clock:
    """A clock of hours, minutes and seconds since it was switched on."""

    def said(time_s: float) -> list[str]:
        all_s = start_s + time_s
        seconds = all_s % 60
        text = f"{seconds:0{3 + digits if digits else 2}.{digits}f}"
        return [f"{int(all_s // 3600):02d}:{int(all_s % 3600 // 60):02d}:{text}"]

    return said


def minutes() -> Clock:
    """Minutes and seconds since the start."""
    return lambda time_s: [f"{int(time_s // 60):02d}:{int(time_s % 60):02d}"]


EPOCH_S = BEGAN.replace(tzinfo=timezone.utc).timestamp()
DAYS = (BEGAN - datetime(1899, 12, 30)) / timedelta(days=1)


@dataclass(frozen=True)
class Shape:
    """How one stranger's logger writes."""

    name: str
    columns: tuple[Col, ...]
    time: tuple[str, ...] = ("Time",)
    clock: Clock = field(default_factory=lambda: count())
    delimiter: str = ","
    decimal: str = "."
    before: tuple[str, ...] = ()
    comment: str = ""
    unit_rows: bool = False
    groups: tuple[str, ...] = ()
    encoding: str = "utf-8"
    newline: str = "\n"
    end: str = "whole"
    again: int = 0
    quoted: bool = False
    headless: bool = False
    rows: int = 1500
    step_s: float = 1.0
    time_units: tuple[str, ...] = ()
    began: datetime | None = None
    padded: bool = False
    thousands: str = ""
    blank: str = ""
    twice: bool = False
    turned: bool = False
    name_of_file: str = "log.csv"

    def truth(self) -> dict[str, FloatArray]:
        """What is to be read, in the core's units."""
        return ride(self.rows, self.step_s)

    def data(self) -> bytes:
        """The file."""
        truth = self.truth()
        heads = [*self.time, *(c.head for c in self.columns)]
        lines = list(self.before)
        if self.groups:
            lines.append(self._line(self.groups))
        if not self.headless:
            head = self._line(heads)
            lines.append(f"{self.comment} {head}" if self.comment and not self.before else head)
        units = self._line(
            [*(self.time_units or [""] * len(self.time)), *(c.unit_row for c in self.columns)]
        )
        if self.unit_rows:
            lines.append(units)
        rows = []
        for at in range(self.rows):
            cells = list(self.clock(float(truth["time_s"][at])))
            for column in self.columns:
                value = column.sign * truth[column.truth][at] / PER[column.unit]
                cells.append(self._number(value, column.digits))
            if self.blank and at % 37 == 5:
                cells[-1] = self.blank
            rows.append(self._line(cells))
            if self.twice and at % 200 == 7:
                rows.append(rows[-1])
        if self.turned:
            rows.reverse()
        if self.again:
            rows.insert(self.again, self._line(heads))
        text = self.newline.join([*lines, *rows])
        if self.end == "whole":
            text += self.newline
        elif self.end == "cut":
            text = text[: -len(rows[-1]) // 2]
        return text.encode(self.encoding)

    def _number(self, value: float, digits: int) -> str:
        text = f"{value:.{digits}f}"
        if self.thousands:
            text = f"{value:,.{digits}f}".replace(",", "§")
            return text.replace(".", self.decimal).replace("§", self.thousands)
        return text.replace(".", self.decimal)

    def _line(self, cells: Sequence[str]) -> str:
        if self.padded:
            return " ".join(cell.rjust(11) for cell in cells)
        if self.quoted:
            return self.delimiter.join(f'"{cell}"' for cell in cells)
        return self.delimiter.join(cells)


def _c(text: str) -> tuple[Col, ...]:
    """Columns out of lines "heading | truth | unit | digits | sign | unit row"."""
    found = []
    for line in text.strip().splitlines():
        parts = [part.strip() for part in line.split("|")]
        parts += [""] * (6 - len(parts))
        found.append(Col(parts[0], parts[1], parts[2], int(parts[3] or 2), int(parts[4] or 1), parts[5]))  # fmt: skip
    return tuple(found)


SHAPES: tuple[Shape, ...] = (
    Shape("plain names", _c("Voltage|voltage_v\nCurrent|current_a|A|3\nSpeed (km/h)|speed_mps|km/h\nDistance (km)|distance_m|km|4")),
    Shape("units in brackets", _c("Battery voltage [V]|voltage_v|V|2\nBattery current [A]|current_a|A|2\nPower [W]|power_w|W|1\nSpeed [km/h]|speed_mps|km/h|1\nTrip [km]|distance_m|km|3"), time=("Time [s]",)),
    Shape("unit row, semicolons, decimal commas", _c("Spannung|voltage_v|V|2|1|V\nStrom|current_a|A|2|1|A\nLeistung|power_w|W|1|1|W\nGeschwindigkeit|speed_mps|km/h|1|1|km/h\nStrecke|distance_m|km|3|1|km"), time=("Zeit",), time_units=("s",), delimiter=";", decimal=",", unit_rows=True),
    Shape("tabs, ISO clock with offset", _c("volts|voltage_v|V|2\namps|current_a|A|2\nah|charge_ah|Ah|4\nwh|energy_wh|Wh|2"), time=("timestamp",), clock=iso("%Y-%m-%dT%H:%M:%S+02:00"), delimiter="\t", began=BEGAN),
    Shape("ISO clock in UTC with milliseconds", _c("battVoltage_V|voltage_v|V|3\nbattCurrent_A|current_a|A|3\nspeed_mph|speed_mps|mph|2\nodo_mi|distance_m|mi|4"), time=("time_utc",), clock=iso("%Y-%m-%dT%H:%M:%S.FRACZ", digits=3), began=BEGAN, step_s=0.5),
    Shape("epoch in milliseconds", _c("U|voltage_v|V|2\nI|current_a|A|2\nP|power_w|W|1\nv_kmh|speed_mps|km/h|2\ndist_m|distance_m|m|1"), time=("ts",), clock=count(1000, EPOCH_S * 1000), began=BEGAN),
    Shape("epoch in seconds", _c("Pack V|voltage_v|V|2\nPack A|current_a|A|2\nSoC %|gauge|%|0\nTemp °C|battery_temp_c|°C|1"), time=("epoch",), clock=count(1, EPOCH_S), began=BEGAN),
    Shape("milliseconds since the start", _c("vbat|voltage_v|V|2\nibat|current_a|A|2\nmah|charge_ah|mAh|1\nspeed km/h|speed_mps|km/h|1\ndistance km|distance_m|km|3"), time=("millis",), clock=count(1000), step_s=0.2, rows=3000),
    Shape("current negative when riding", _c("Voltage (V)|voltage_v|V|2\nCurrent (A)|current_a|A|2|-1\nPower (W)|power_w|W|1|-1\nGPS Speed (mph)|speed_mps|mph|1"), clock=iso("%d/%m/%Y %H:%M:%S"), began=BEGAN, time=("Date Time",)),
    Shape("milli-units", _c("voltage_mV|voltage_v|mV|0\ncurrent_mA|current_a|mA|0\nconsumed_mAh|charge_ah|mAh|0\nspeed_kmh|speed_mps|km/h|1"), time=("time_ms",), clock=count(1000)),
    Shape("milli-units that are not named", _c("voltage|voltage_v|mV|0\ncurrent|current_a|mA|0\npower|power_w|W|2\nspeed_kmh|speed_mps|km/h|1"), time=("time_s",)),
    Shape("German words, Latin-1", _c("Akkuspannung (V)|voltage_v|V|2\nAkkustrom (A)|current_a|A|2\nHöhe (m)|altitude_m|m|1\nGeschwindigkeit (km/h)|speed_mps|km/h|1\nWegstrecke (km)|distance_m|km|3\nAkkutemperatur (°C)|battery_temp_c|°C|1"), time=("Uhrzeit",), clock=iso("%H:%M:%S"), delimiter=";", decimal=",", encoding="latin-1"),
    Shape("French words, UTF-16", _c("Tension (V)|voltage_v|V|2\nCourant (A)|current_a|A|2\nPuissance (W)|power_w|W|1\nVitesse (km/h)|speed_mps|km/h|1\nÉnergie (Wh)|energy_wh|Wh|2"), time=("Temps (s)",), delimiter="\t", decimal=",", encoding="utf-16"),
    Shape("Spanish words, byte-order mark", _c("Voltaje [V]|voltage_v|V|2\nCorriente [A]|current_a|A|2\nVelocidad [km/h]|speed_mps|km/h|1\nDistancia [km]|distance_m|km|3"), time=("Tiempo [s]",), delimiter=";", decimal=",", encoding="utf-8-sig"),
    Shape("Italian words", _c("Tensione (V)|voltage_v|V|2\nCorrente (A)|current_a|A|2\nVelocità (km/h)|speed_mps|km/h|1\nDistanza (km)|distance_m|km|3\nQuota (m)|altitude_m|m|0"), time=("Ora",), clock=iso("%H:%M:%S")),
    Shape("Dutch words, comments", _c("spanning (V)|voltage_v|V|2\nstroom (A)|current_a|A|2\nsnelheid (km/h)|speed_mps|km/h|1\nafstand (km)|distance_m|km|3"), time=("tijd (s)",), comment="#"),
    Shape("a preamble with the day", _c("Voltage|voltage_v|V|2|1|V\nCurrent|current_a|A|2|1|A\nCharge|charge_ah|Ah|4|1|Ah"), time=("Time",), time_units=("hh:mm:ss",), clock=iso("%H:%M:%S"), before=("Logger file", "Serial: 4711", "Recorded 2026-05-14", ""), unit_rows=True, began=BEGAN),
    Shape("comments and a heading in one", _c("volts|voltage_v|V|2\namps|current_a|A|2\nspeed_mps|speed_mps|m/s|3"), time=("t_s",), before=("# made by a home-made logger", "# two lines of remarks", "#"), comment="#"),
    Shape("groups above the names", _c("Voltage|voltage_v|V|2|1|V\nCurrent|current_a|A|2|1|A\nTemperature|motor_temp_c|°C|1|1|°C\nSpeed|speed_mps|km/h|1|1|km/h"), time=("Time",), time_units=("s",), groups=("", "Battery", "", "Motor", ""), unit_rows=True),
    Shape("a heading in mid-file and a cut line", _c("V|voltage_v|V|2\nA|current_a|A|2\nWh|energy_wh|Wh|2\nkm/h|speed_mps|km/h|1"), time=("Time",), clock=iso("%Y-%m-%d %H:%M:%S"), again=700, end="cut", began=BEGAN),
    Shape("everything quoted, CRLF", _c("Voltage (V)|voltage_v|V|2\nCurrent (A)|current_a|A|2\nSpeed (km/h)|speed_mps|km/h|1"), clock=iso("%Y-%m-%d %H:%M:%S"), quoted=True, newline="\r\n", began=BEGAN),
    Shape("quoted decimal commas", _c("Voltage (V)|voltage_v|V|2\nCurrent (A)|current_a|A|2\nDistance (km)|distance_m|km|3\nSpeed (km/h)|speed_mps|km/h|1"), time=("Seconds",), quoted=True, decimal=","),
    Shape("aligned by spaces", _c("voltage|voltage_v|V|2\ncurrent|current_a|A|2\nspeed_kmh|speed_mps|km/h|1\ndist_km|distance_m|km|3"), time=("time_s",), delimiter=" ", padded=True),
    Shape("date and clock in two columns", _c("Volts|voltage_v|V|2\nAmps|current_a|A|2\nMPH|speed_mps|mph|1\nMiles|distance_m|mi|3"), time=("Date", "Time"), clock=iso("%m/%d/%Y||%I:%M:%S %p"), began=BEGAN),
    Shape("German date and clock in two columns", _c("U (V)|voltage_v|V|2\nI (A)|current_a|A|2\nP (W)|power_w|W|1"), time=("Datum", "Uhrzeit"), clock=iso("%d.%m.%Y||%H:%M:%S"), delimiter=";", decimal=",", began=BEGAN),
    Shape("over midnight", _c("Voltage|voltage_v|V|2\nCurrent|current_a|A|2\nPower|power_w|W|1\nSpeed km/h|speed_mps|km/h|1"), clock=iso("%H:%M:%S", of=datetime(2026, 5, 14, 23, 50))),
    Shape("spreadsheet dates", _c("Voltage|voltage_v|V|2\nCurrent|current_a|A|2\nAh|charge_ah|Ah|4"), time=("Date",), clock=count(1 / 86_400, DAYS, 8), began=BEGAN),
    Shape("a ride's own clock", _c("Voltage V|voltage_v|V|2\nCurrent A|current_a|A|2\nSpeed km/h|speed_mps|km/h|1\nDistance km|distance_m|km|3\nBattery %|gauge|%|0"), time=("Elapsed",), clock=hms()),
    Shape("minutes and seconds", _c("Voltage V|voltage_v|V|2\nCurrent A|current_a|A|2\nSpeed km/h|speed_mps|km/h|1"), time=("elapsed time",), clock=minutes()),
    Shape("a count of minutes", _c("Voltage (V)|voltage_v|V|2\nCurrent (A)|current_a|A|2\nSpeed (km/h)|speed_mps|km/h|1"), time=("Time (min)",), clock=count(1 / 60, 0, 5)),
    Shape("cells given singly", tuple(Col(f"Cell {k} (V)", f"cell_{k}", "V", 3) for k in range(1, SERIES + 1)) + _c("Current (A)|current_a|A|2\nSOC (%)|gauge|%|0"), time=("Timestamp",), clock=iso("%Y-%m-%d %H:%M:%S"), began=BEGAN),
    Shape("cells in millivolts beside the pack", _c("Total voltage|voltage_v|V|2\nCurrent|current_a|A|2|-1") + tuple(Col(f"c{k:02d}", f"cell_{k}", "mV", 0) for k in range(1, SERIES + 1)), time=("time",), clock=iso("%Y/%m/%d %H:%M:%S"), began=BEGAN),
    Shape("what is left, not what was used", _c("Voltage (V)|voltage_v|V|2\nCurrent (A)|current_a|A|2\nRemaining capacity (Ah)|charge_left_ah|Ah|4"), clock=iso("%Y-%m-%d %H:%M:%S"), began=BEGAN),
    Shape("watts and volts without amps", _c("Volts|voltage_v|V|2\nWatts|power_w|W|2\nSpeed (mph)|speed_mps|mph|2\nDistance (mi)|distance_m|mi|4"), time=("sec",)),
    Shape("a track in the log", _c("lat|latitude_deg|°|7\nlon|longitude_deg|°|7\nele|altitude_m|m|1\nspeed|speed_mps|km/h|2\nvoltage|voltage_v|V|2\ncurrent|current_a|A|2"), time=("time",), clock=iso("%Y-%m-%dT%H:%M:%SZ"), began=BEGAN),
    Shape("speed without a unit beside metres", _c("voltage|voltage_v|V|2\ncurrent|current_a|A|2\nspeed|speed_mps|m/s|3\ndistance_m|distance_m|m|1"), time=("time",)),
    Shape("kilowatts and kilowatt-hours", _c("Battery Voltage (V)|voltage_v|V|2\nBattery Current (A)|current_a|A|2\nBattery Power (kW)|power_w|kW|4\nEnergy used (kWh)|energy_wh|kWh|5\nSpeed (km/h)|speed_mps|km/h|1"), time=("Time (s)",)),
    Shape("thousands parted", _c("Voltage (mV)|voltage_v|mV|0\nCurrent (mA)|current_a|mA|0\nDistance (m)|distance_m|m|1\nSpeed (km/h)|speed_mps|km/h|1"), time=("Time (s)",), delimiter=";", decimal=",", thousands="."),
    Shape("nothing known in some cells", _c("Voltage (V)|voltage_v|V|2\nSpeed (km/h)|speed_mps|km/h|1\nCurrent (A)|current_a|A|2"), blank="n/a"),
    Shape("rows twice", _c("Voltage (V)|voltage_v|V|2\nCurrent (A)|current_a|A|2\nSpeed (km/h)|speed_mps|km/h|1"), clock=iso("%Y-%m-%d %H:%M:%S"), twice=True, began=BEGAN),
    Shape("newest first", _c("Voltage (V)|voltage_v|V|2\nCurrent (A)|current_a|A|2\nSpeed (km/h)|speed_mps|km/h|1"), clock=iso("%Y-%m-%d %H:%M:%S"), turned=True, began=BEGAN),
    Shape("motor and limits beside the pack", _c("Battery Current (A)|current_a|A|2\nMotor Current (A)|speed_mps|m/s|2\nBattery Voltage (V)|voltage_v|V|2\nMotor temp (°C)|motor_temp_c|°C|1\nController temp (°C)|controller_temp_c|°C|1\nMax current (A)|gauge|%|0\nThrottle (%)|gauge|%|0\nSpeed (km/h)|speed_mps|km/h|2\nWh/km|speed_mps|m/s|1"), time=("Time (s)",)),
    Shape("no heading", _c("|voltage_v|V|2\n|current_a|A|2\n|power_w|W|1"), time=("",), headless=True),
    Shape("pipes, US clock", _c("VOLTAGE|voltage_v|V|2\nCURRENT|current_a|A|2\nSPEED MPH|speed_mps|mph|1\nALTITUDE FT|altitude_m|ft|0"), time=("DATETIME",), clock=iso("%m/%d/%Y %I:%M:%S %p"), delimiter="|", began=BEGAN),
    Shape("tenths of a volt and of an ampere", _c("Voltage|voltage_v|dV|0\nCurrent|current_a|dV|0\nPower|power_w|W|0\nSpeed (km/h)|speed_mps|km/h|1"), time=("Time (s)",)),
    Shape("fine clock with commas", _c("Spannung [V]|voltage_v|V|2\nStrom [A]|current_a|A|2\nGeschw. [km/h]|speed_mps|km/h|1"), time=("Zeitstempel",), clock=iso("%d.%m.%Y %H:%M:%S,FRAC", digits=3), delimiter=";", decimal=",", step_s=0.25, began=BEGAN),
    Shape("whole seconds, four rows each", _c("Voltage (V)|voltage_v|V|2\nCurrent (A)|current_a|A|3\nSpeed (km/h)|speed_mps|km/h|2"), clock=iso("%Y-%m-%d %H:%M:%S"), step_s=0.25, rows=3000, began=BEGAN),
    Shape("units behind the numbers' names only", _c("V|voltage_v|V|2\nA|current_a|A|2\nW|power_w|W|1\nAh|charge_ah|Ah|4\nWh|energy_wh|Wh|2\nkm/h|speed_mps|km/h|1\nkm|distance_m|km|3\n°C|battery_temp_c|°C|1"), time=("s",)),
)  # fmt: skip
