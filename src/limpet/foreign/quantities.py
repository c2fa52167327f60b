"""What a column's name means: words for each quantity, as riders and loggers write them in several languages.

*Common practice, no source*: the words are those of the trade, no maker's list.
"""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass
from typing import Final

from limpet.evidence.columns import SAMPLE_COLUMNS
from limpet.foreign.units import unit_in, unit_of
from limpet.units import CORE_UNITS, Kind

#: What a column may be taken for beside a sample's own columns.
CLOCK, DATE, ELAPSED, POWER, CELL, LEFT_AH, IN_AH, IN_WH, LEFT_WH = (
    "clock", "date", "elapsed", "power_w", "cell_v", "charge_left_ah", "charged_ah", "charged_wh", "energy_left_wh",
)  # fmt: skip
#: The kind of quantity of each.
KINDS: Final[dict[str, Kind | None]] = {
    **{name: column.kind for name, column in SAMPLE_COLUMNS.items()},
    POWER: "power", CELL: "voltage", LEFT_AH: "charge", IN_AH: "charge", IN_WH: "energy", LEFT_WH: "energy",
    CLOCK: None, DATE: None, ELAPSED: "time",
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Meaning:
    """What a heading says: a quantity or None, its unit as written or "", how plainly (0 to 1).

    `pack` is the number of a pack and `cell` that of a cell where the heading counts them.
    """

    quantity: str | None
    unit: str = ""
    plain: float = 0.0
    pack: int | None = None
    cell: int | None = None
    by_unit: bool = False


def _words(*patterns: str) -> re.Pattern[str]:
    return re.compile("|".join(patterns))


#: Of other things than the ride's: a motor's phase current, limits, extremes, averages, targets.
_ASIDE: Final = _words(
    r"\bphase", r"\bphas\b", r"\bmotor ?(?:current|amps?|strom|courant|corriente|corrente|volt|voltage|spannung)\b", r"\bmotorstrom\b", r"\bcourant moteur\b",
    r"\bmax(?:imum|imal|imale)?\b", r"\bmin(?:imum|imal|imale)?\b(?! ?cell| ?zell)", r"\bavg\b", r"\baverage\b", r"\bmean\b",
    r"\bmittel", r"\bdurchschnitt", r"\bmoyenn", r"\bmedia\b", r"\bpeak\b", r"\bset ?point\b", r"\btarget\b", r"\blimit\b",
    r"\bthrottle\b", r"\bduty\b", r"\berpm\b", r"\brpm\b", r"\bcadence\b", r"\bheart\b", r"\bfault\b", r"\berror\b", r"\bstatus\b",
    r"\bheading\b", r"\bcourse\b", r"\bbearing\b", r"\bhdop\b", r"\bsatellites?\b", r"\bsats\b", r"\baccuracy\b", r"\brequest",
    r"\bdelta\b", r"\bdiff(?:erence)?\b", r"\bspread\b", r"\baux", r"\b(?:ambient|aussen|outside|exterieure)\b", r"\bid iq\b", r"\b[iu] ?[qd]\b",
    r"\bper (?:km|mi|mile|hour|h)\b", r"\bwh ?(?:km|mi|mile)\b", r"\befficiency\b", r"\bverbrauch\b", r"\brecord\b", r"\bconsumo\b",
    r"\bconsommation\b", r"\bhumidity\b", r"\bpitch\b", r"\broll\b", r"\bcycles?\b", r"\bnominal\b", r"\brated\b", r"\bdesign\b", r"\bfull capacity\b",
    r"\bresistance\b", r"\bwiderstand\b", r"\bdensity\b", r"\bpedal\b", r"\bhuman\b", r"\brider\b", r"\bassist\b", r"\btorque\b",
    r"\bslope\b", r"\bgrade\b", r"\bgradient\b", r"\binclin", r"\bcharger\b",
)  # fmt: skip
_LEFT: Final = _words(r"\bremain", r"\brest(?:kapazitat|ladung|energie)?\b", r"\bleft\b", r"\bverbleib", r"\brestant", r"\brestante", r"\bresidu", r"\bavailable\b")  # fmt: skip
_RETURNED: Final = _words(r"\bregen", r"\brecup", r"\brekup", r"\breturned\b", r"\bcharged\b", r"\bin\b", r"\bgeladen\b", r"\brueckspeis", r"\bcharge(?:d)? in\b", r"\brecovered\b", r"\brecuper")  # fmt: skip
#: What a share is of, where it is a gauge.
_OF_CHARGE: Final = re.compile(
    r"\b(?:charge|batt\w*|akku|accu|capacity|kapazitat|pack|energy|ladung)\b"
)
_PACK_NUMBER: Final = re.compile(
    r"\b(?:pack|battery|batt|bat|akku|batterie|bateria|batteria|accu|bms)[ _#]?([1-8ab])\b"
)
_CELL_NUMBER: Final = re.compile(
    r"\b(?:cell|zelle|zell|cellule|celda|cella|cel|c|vc|uc)[ _#]?(?:voltage|volt|v|spannung|u)?[ _#]?(\d{1,2})\b"
)
#: The quantity of a heading, the first that fits; what is plain, from 0 to 1, for each.
_QUANTITIES: Final[tuple[tuple[str, float, re.Pattern[str]], ...]] = (
    ("cell_min_v", 0.9, _words(r"\b(?:min(?:imum)?|lowest|low|niedrigste|kleinste|plus basse|minima|laagste)\b.*\b(?:cell|zelle|zell|cellule|celda|cella|cel)", r"\b(?:cell|zelle|cellule|celda|cella|cel)(?: ?v| voltage)?\b.*\b(?:min(?:imum)?|lowest|low)\b", r"\bvcell ?min\b", r"\bzellminimum\b")),
    ("controller_temp_c", 0.9, _words(r"\b(?:controller|contr|ctrl|esc|mosfet|mos|fet|inverter|regler|steuergerat|controleur|controlador|driver)\b.*\b(?:temp|temperatur\w*|t)\b", r"\b(?:temp|temperatur\w*|t)\b.*\b(?:controller|contr|ctrl|esc|mosfet|mos|fet|inverter|regler|driver|controleur)\b", r"^(?:mosfet|fet|esc)$")),
    ("motor_temp_c", 0.9, _words(r"\b(?:motor|moteur|engine|hub|stator)\b.*\b(?:temp|temperatur\w*|t)\b", r"\b(?:temp|temperatur\w*|t)\b.*\b(?:motor|moteur|hub|stator)\b", r"\bmotortemperatur\b", r"\btmotor\b")),
    ("battery_temp_c", 0.85, _words(r"\b(?:batt?(?:ery|erie)?|pack|bms|akku|accu|cells?|zellen?|bateria|batteria)\b.*\b(?:temp|temperatur\w*|t)\b", r"\b(?:temp|temperatur\w*|t)\b.*\b(?:batt?(?:ery|erie)?|pack|bms|akku|accu|cells?|bateria|batteria)\b", r"\bakkutemperatur\b", r"\btbatt?\b")),
    (DATE, 0.9, _words(r"^(?:date|datum|fecha|data|jour|day|tag|dia|giorno)$", r"\b(?:gps )?date$", r"^date\b(?!.*time)(?!.*zeit)(?!.*heure)")),
    (CLOCK, 0.95, _words(r"\b(?:time ?stamp|timestamp|date ?time|datetime|zeitstempel|horodatage|tijdstempel|fecha y? ?hora|data ora|date heure|datum zeit|datum uhrzeit|date time|epoch|unix ?time|utc|created ?at|logged ?at)\b", r"\b(?:uhrzeit|heure|hora|ora|clock|uhr|local time|tijdstip|klok)\b")),
    (ELAPSED, 0.9, _words(r"\b(?:elapsed|run ?time|runtime|laufzeit|fahrzeit|ride time|duration|dauer|duree|tiempo transcurrido|seconds?|sekunden?|secs?|millis(?:econds)?|uptime|since start|verstreken|ms|time since)\b")),
    (CLOCK, 0.75, _words(r"\b(?:time|zeit|temps|tiempo|tempo|tijd)\b", r"^t$")),
    ("latitude_deg", 0.95, _words(r"\b(?:lat|latitude|latitud|latitudine|breitengrad|geo ?breite|breedtegraad)\b", r"^gps ?lat")),
    ("longitude_deg", 0.95, _words(r"\b(?:lon|lng|long|longitude|longitud|longitudine|langengrad|laengengrad|lengtegraad|geo ?lange)\b", r"^gps ?lo?ng?")),
    ("altitude_m", 0.9, _words(r"\b(?:alt|altitude|elevation|ele|hohe|hoehe|altitud|altitudine|quota|hoogte|height|altura)\b")),
    (IN_WH, 0.85, _words(r"\b(?:wh|watt ?hours?|energy|energie|energia)\b.*(?:regen|charged|recup|rekup|geladen|returned|recovered)", r"(?:regen|charged|recup|rekup|geladen|returned|recovered).*\b(?:wh|watt ?hours?|energy|energie|energia)\b")),
    (IN_AH, 0.85, _words(r"\b(?:ah|mah|amp ?hours?|charge|capacity|ladung|capacite)\b.*(?:\bregen|\bcharged|recup|rekup|geladen|returned|recovered)", r"(?:regen|charged|recup|rekup|geladen|returned|recovered).*\b(?:ah|mah|amp ?hours?|charge|ladung)\b")),
    ("gauge", 0.85, _words(r"\b(?:soc|state of charge|ladezustand|ladestand|akkustand|batteriestand|etat de charge|estado de carga|stato di carica|battery level|battery percent\w*|batt(?:ery)? ?%|level|niveau|gauge|bars?|fuel|percent\w*|prozent|charge level|laadniveau|nivel)\b", r"^(?:battery|akku|batterie|bateria|batteria|accu) ?%?$", r"%")),
    (POWER, 0.9, _words(r"\b(?:power|watts?|leistung|puissance|potencia|potenza|vermogen|pbat\w*|batt? ?p)\b", r"^[pw]$")),
    ("energy_wh", 0.9, _words(r"\b(?:wh|kwh|watt ?hours?|energy|energie|energia|arbeit)\b")),
    ("charge_ah", 0.9, _words(r"\b(?:ah|mah|amp ?hours?|ampere ?hours?|amperestunden|charge used|charge|consumed|ladung|entladen|capacity|kapazitat|kapazitaet|capacite|capacidad|capacita|capaciteit|discharged|verbraucht|coulombs?|used capacity)\b")),
    ("voltage_v", 0.95, _words(r"\b(?:voltage|volts?|volt|spannung|akkuspannung|batteriespannung|packspannung|tension|voltaje|tensione|spanning|vbatt?|vbattery|ubatt?|vpack|upack|vbus|vin|uin|v ?in|batt? ?v|pack ?v|v ?batt?|u ?batt?|vdc|sum ?v)\b", r"^[vu]$")),
    ("current_a", 0.95, _words(r"\b(?:current|amps?|ampere|amperage|strom|akkustrom|batteriestrom|courant|corriente|corrente|stroom|ibatt?|ibattery|ipack|ibus|iin|i ?in|batt? ?[ia]|pack ?[ia]|[ia] ?batt?|intensite|intensidad)\b", r"^[ia]$")),
    ("speed_mps", 0.95, _words(r"\b(?:speed|gps ?speed|velocity|geschwindigkeit|tempo km|vitesse|velocidad|velocita|snelheid|speedo\w*|kmh|kph|mph|km h)\b")),
    ("distance_m", 0.95, _words(r"\b(?:distance|dist|trip|tripmeter|trip ?[ab]?|strecke|distanz|wegstrecke|weg|fahrstrecke|distancia|distanza|afstand|odo|odometer|kilometerstand|kilometrage|km ?stand|mileage|ridden|tageskilometer|odometro)\b", r"^(?:km|mi|miles?|meters?|metres?)$")),
    ("battery_temp_c", 0.5, _words(r"\b(?:temp|temperature|temperatur|temperatura|temperatuur)\b")),
)  # fmt: skip
#: What a column is taken for by its unit alone.
_BY_UNIT: Final[dict[Kind, str]] = {
    "voltage": "voltage_v", "current": "current_a", "charge": "charge_ah", "energy": "energy_wh", "power": POWER,
    "speed": "speed_mps", "distance": "distance_m", "time": ELAPSED, "temperature": "battery_temp_c",
}  # fmt: skip


def normal(name: str) -> str:
    """A heading in small plain letters with single spaces: "battVoltage_V" is "batt voltage v"."""
    name = re.sub(r"(?<=[a-z])(?=[A-Z])|(?<=[A-Z])(?=[A-Z][a-z]{2})", " ", name)
    plain = unicodedata.normalize("NFKD", name.replace("ß", "ss"))
    plain = "".join(mark for mark in plain if not unicodedata.combining(mark)).lower()
    return " ".join(re.sub(r"[^a-z0-9%]+", " ", plain).split())


def meaning_of(name: str, unit_row: str = "") -> Meaning:
    """What a heading says.

    Parameters
    ----------
    name : as it stands in the file
    unit_row : what stands under it as its unit, "" where nothing does

    Notes
    -----
    A bundle's own names, such as `voltage_v`, are what they say.
    """
    if name in KINDS and name not in ("clock", "date", "elapsed"):
        quantity_kind = KINDS[name]
        own = "" if quantity_kind is None else CORE_UNITS[quantity_kind][0]
        return Meaning(quantity=ELAPSED if name == "time_s" else name, unit=own, plain=1.0)
    trip = re.fullmatch(r"(?i)trip[ _]?[ab12]", name.strip())
    unit, rest = ("", name) if trip else unit_in(name)
    unit = unit_row or unit
    words = normal(rest)
    kind = unit_of(unit)
    packed = _PACK_NUMBER.search(words)
    pack = None
    if packed is not None:
        pack = int(packed[1]) if packed[1].isdigit() else "ab".index(packed[1]) + 1
        words = words.replace(packed[0], packed[0].rstrip("12345678ab ") or "pack")
    celled = _CELL_NUMBER.search(words)
    if celled is not None and (kind is None or kind[0] == "voltage") and "temp" not in words:
        return Meaning(quantity=CELL, unit=unit, plain=0.9, pack=pack, cell=int(celled[1]))
    if _ASIDE.search(words):
        lowest = _QUANTITIES[0]
        if lowest[2].search(words):
            return Meaning(quantity=lowest[0], unit=unit, plain=lowest[1], pack=pack)
        return Meaning(quantity=None, unit=unit, pack=pack)
    found = _by_words(words, unit, pack)
    if found is not None:
        return found
    return _by_unit(unit, words, pack)


def _by_words(words: str, unit: str, pack: int | None) -> Meaning | None:
    for quantity, plain, pattern in _QUANTITIES:
        if not pattern.search(words):
            continue
        kind = KINDS[quantity]
        if unit_of(unit) is not None and not _fits(unit, quantity, kind):
            # The unit knows better than a word that has two meanings: "charge" in per cent is a gauge.
            continue
        if quantity == "charge_ah" and _LEFT.search(words):
            quantity = LEFT_AH
        if quantity == "energy_wh" and _LEFT.search(words):
            quantity = LEFT_WH
        return Meaning(quantity=quantity, unit=unit, plain=plain, pack=pack)
    return None


def _fits(unit: str, quantity: str, kind: Kind | None) -> bool:
    if quantity == "gauge":
        kind = "share"
    elif quantity in (CLOCK, ELAPSED, DATE):
        kind = "time"
    # Of its own kind: C is a coulomb, and a degree.
    return kind is not None and unit_of(unit, kind) is not None


def _by_unit(unit: str, words: str, pack: int | None) -> Meaning:
    said = unit_of(unit)
    if said is None:
        bare = unit_of(words)
        if bare is None or len(words) > 5:
            return Meaning(quantity=None, unit=unit, pack=pack)
        said, unit = bare, words
    quantity = _BY_UNIT.get(said[0])
    if said[0] == "share" and _OF_CHARGE.search(words):
        quantity = "gauge"
    if _LEFT.search(words):
        quantity = {"charge_ah": LEFT_AH, "energy_wh": LEFT_WH}.get(quantity or "", quantity)
    elif _RETURNED.search(words):
        quantity = {"charge_ah": IN_AH, "energy_wh": IN_WH}.get(quantity or "", quantity)
    if quantity == "battery_temp_c":
        return Meaning(quantity=quantity, unit=unit, plain=0.4, pack=pack, by_unit=True)
    return Meaning(quantity=quantity, unit=unit, plain=0.7, pack=pack, by_unit=True)
