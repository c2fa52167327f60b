"""What an account keeps beside Django's own user: its name as it is compared, and its units."""

from __future__ import annotations

import uuid

from django.db import models


class Account(models.Model):
    """An account's name as it is compared, what it looks like, and whether it is the demo's."""

    owner = models.OneToOneField("auth.User", on_delete=models.CASCADE, related_name="account")
    # Byte by byte: the table's own collation takes é for e.
    folded = models.CharField(max_length=150, unique=True, db_collation="utf8mb4_bin")
    skeleton = models.CharField(max_length=320, unique=True, db_collation="utf8mb4_bin")
    is_demo = models.BooleanField(default=False)
    #: When it goes with all that is its own, once its rider has asked for that.
    goes_at = models.DateTimeField(null=True, blank=True)


class Preferences(models.Model):
    """The units a rider reads in; what they type may always carry its own."""

    class Distance(models.TextChoices):
        MILES = "mi"
        KILOMETRES = "km"

    class Mass(models.TextChoices):
        KILOGRAMS = "kg"
        POUNDS = "lb"
        STONE = "st"

    class Temperature(models.TextChoices):
        CELSIUS = "°C"
        FAHRENHEIT = "°F"

    class Pressure(models.TextChoices):
        KILOPASCAL = "kPa"
        PSI = "psi"
        BAR = "bar"

    owner = models.OneToOneField("auth.User", on_delete=models.CASCADE, related_name="preferences")
    distance = models.CharField(max_length=2, choices=Distance, default=Distance.MILES)
    mass = models.CharField(max_length=2, choices=Mass, default=Mass.KILOGRAMS)
    temperature = models.CharField(max_length=2, choices=Temperature, default=Temperature.CELSIUS)
    pressure = models.CharField(max_length=3, choices=Pressure, default=Pressure.KILOPASCAL)


class PhoneCode(models.Model):
    """A code by which a phone may sign in, once; what is kept is its digest."""

    owner = models.ForeignKey("auth.User", on_delete=models.CASCADE, related_name="+")
    digest = models.CharField(max_length=64, unique=True)
    valid_until = models.DateTimeField()

    def __str__(self) -> str:
        return f"for {self.owner_id} until {self.valid_until:%H:%M}"


class SignedIn(models.Model):
    """A session of an account, as its rider may see and end it."""

    class Kind(models.TextChoices):
        PHONE = "phone"
        COMPUTER = "computer"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey("auth.User", on_delete=models.CASCADE, related_name="+")
    session_key = models.CharField(max_length=40, unique=True, db_collation="utf8mb4_bin")
    kind = models.CharField(max_length=10, choices=Kind)
    #: What the browser says of itself.
    agent = models.CharField(max_length=200, blank=True)
    made_at = models.DateTimeField(auto_now_add=True)
    seen_at = models.DateTimeField(auto_now=True)
    #: Whether the account's other sessions were told of it.
    told = models.BooleanField(default=True)

    def __str__(self) -> str:
        return f"{self.kind} of {self.owner_id}"


class RateCount(models.Model):
    """How often something was tried by somebody since a moment; the key is a digest of both."""

    key = models.CharField(max_length=64, primary_key=True, db_collation="utf8mb4_bin")
    since = models.DateTimeField(db_index=True)
    count = models.PositiveIntegerField()

    def __str__(self) -> str:
        return f"{self.count} since {self.since:%H:%M:%S}"


class OwnAssumption(models.Model):
    """What an account assumes instead of a default of the core's."""

    owner = models.ForeignKey("auth.User", on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=60)
    value = models.FloatField()
    std = models.FloatField()

    class Meta:
        constraints = (
            models.UniqueConstraint(fields=("owner", "name"), name="own_assumption_once"),
        )

    def __str__(self) -> str:
        return self.name
