"""Enumerations with names in the API's description, so that whoever reads it has one type for each."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Final

#: Name of each enumeration, and one place that holds it: `Schema.property` or `operation?parameter`, the
#: second of two there with `#2`. Wherever the same values stand, the name stands for them.
NAMED: Final[dict[str, str]] = {
    "AppliedTo": "ChangeOut.applied_to",
    "ArisesBy": "ArisingOut.by",
    "CarriedPart": "PartOfOut.name",
    "Charge": "RideIn.charge",
    "Chemistry": "CellIn.chemistry",
    "ChoiceKind": "ChoiceOut.what",
    "ClaimDiffers": "ClaimResultOut.differs",
    "ClaimResultVerdict": "ClaimResultOut.verdict",
    "ClaimVerdict": "ClaimAnswerOut.verdict",
    "ClockUnit": "TimeRead.unit",
    "ComparedQuantity": "ComparisonOut.quantity",
    "ComparisonVerdict": "ComparisonOut.verdict",
    "Computed": "TestDetail.computed",
    "Condition": "ChangeOut.name",
    "DecimalMark": "LogMapping.decimal",
    "DeviceKind": "SignedInOut.kind",
    "DistanceMethod": "MethodOut.method#2",
    "DistanceUnit": "Units.distance",
    "DroppedWhat": "DroppedPartOut.what",
    "EndReason": "EndIn.reason",
    "EndRule": "PlanIn.end_rule",
    "EnergyMethod": "MethodOut.method",
    "EntryKind": "EntryIn.kind",
    "EventKind": "EntryIn.what",
    "Figure": "WorkingOut.figure",
    "FileForm": "getTestFile?form",
    "FormatName": "getFormat?name",
    "GaugeKind": "SheetGaugeIn.gauge_kind",
    "ImportUse": "TakeIn.use",
    "JudgedBy": "ComparisonOut.judged_by",
    "KitShelf": "listKitCopies?shelf",
    "LegBy": "RiddenLegOut.by",
    "LessonCode": "LearnedOut.code",
    "LessonState": "LearnedOut.state",
    "LoggedQuantity": "ColumnRead.quantity",
    "LookKind": "LookOut.kind",
    "LookUse": "LookIn.use",
    "MassUnit": "Units.mass",
    "MatterCode": "MatterOut.code",
    "Onward": "FollowOut.onward",
    "OwnTestsShelf": "OwnTestsOut.shelf",
    "OwnTestsWhat": "OwnTestsOut.what",
    "PackLifeBy": "PackLifeOut.told_by",
    "PackUse": "RideIn.packs_use",
    "PairBy": "PairOut.by",
    "PlannedPackUse": "PlanIn.packs_use",
    "PolicyName": "PlanIn.policy",
    "PracticeCost": "CostOut.code",
    "PracticeStep": "StepOut.name",
    "PressureUnit": "Units.pressure",
    "Propulsion": "RideIn.propulsion",
    "Purpose": "PlanIn.purpose",
    "Question": "ComparisonOut.question",
    "QuotaName": "QuotaOut.name",
    "ReadsInstrument": "ReadsOut.instrument",
    "RouteKind": "RouteOut.kind",
    "RouteMade": "RouteIn.kind",
    "RouteRule": "RulesOut.route_kind",
    "SamplesDistance": "SheetInstrumentsIn.samples_distance",
    "Season": "listTests?season",
    "SeasonVerdict": "SeasonBandOut.verdict",
    "Severity": "NoticeOut.severity",
    "Sign": "StreamIn.sign",
    "Surely": "TripMadeOut.surely",
    "Surface": "LegOut.surface",
    "TemperatureUnit": "Units.temperature",
    "TestOrder": "listTests?sort",
    "TimeForm": "TimeRead.form",
    "VehicleKind": "ClaimIn.vehicle_kind",
    "WayAhead": "followRide?way",
    "WeatherFrom": "SessionOut.weather",
}


def name_enums(schema: dict[str, Any]) -> None:
    """Put every enumeration of a description among its components, under its name.

    Parameters
    ----------
    schema : an OpenAPI description; changed in place

    Raises
    ------
    LookupError
        When the place of a name is gone or holds nothing to name, when a name is taken, or when an
        enumeration has no name: put it into `NAMED`.
    """
    components = schema["components"]["schemas"]
    names = {_values_at(schema, place): name for name, place in NAMED.items()}
    if len(names) < len(NAMED) or components.keys() & NAMED.keys():
        raise LookupError("two names for one enumeration, or one name for two schemas")
    # One and the same shape may stand in several places of the description.
    for found in {id(found): found for found in _enums(schema)}.values():
        values = tuple(found.pop("enum"))
        if values not in names:
            raise LookupError(f"an enumeration without a name: {values}")
        name = names[values]
        found.pop("title", None)
        components[name] = {"title": name, "type": found.pop("type"), "enum": list(values)}
        found["$ref"] = f"#/components/schemas/{name}"


def _values_at(schema: dict[str, Any], place: str) -> tuple[Any, ...]:
    """The values of the enumeration that stands at a place."""
    where, _, number = place.partition("#")
    found = list(_enums(_shape_at(schema, where)))
    at = int(number or 1) - 1
    if at >= len(found):
        raise LookupError(f"no enumeration stands at {place}")
    return tuple(found[at]["enum"])


def _shape_at(schema: dict[str, Any], where: str) -> Any:
    owner, dot, part = where.partition(".")
    if dot:
        return schema["components"]["schemas"].get(owner, {}).get("properties", {}).get(part)
    operation_id, _, part = where.partition("?")
    for operations in schema["paths"].values():
        for operation in operations.values():
            if operation["operationId"] == operation_id:
                return [item for item in operation["parameters"] if item["name"] == part]
    return None


def _enums(part: Any) -> Iterator[dict[str, Any]]:
    """Every enumeration of a part of a description; one that can have one value is none."""
    if isinstance(part, dict):
        if len(part.get("enum", ())) > 1:
            yield part
        for inner in part.values():
            yield from _enums(inner)
    elif isinstance(part, list):
        for inner in part:
            yield from _enums(inner)
