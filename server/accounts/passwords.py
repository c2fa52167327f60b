"""What Django's own validators let through and nobody should."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.core.exceptions import ValidationError

#: Fewer different characters than this are soon tried through.
LEAST_DIFFERENT = 5


class VarietyValidator:
    """Refuses eight spaces, abababab and their like."""

    def validate(self, password: str, user: User | None = None) -> None:
        if len(set(password.strip())) < LEAST_DIFFERENT:
            raise ValidationError(self.get_help_text(), code="password_too_uniform")

    def get_help_text(self) -> str:
        return f"Use at least {LEAST_DIFFERENT} different characters, spaces at the ends aside."
