"""`./limpet restore FILE`: a backup onto an installation that has nothing yet."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.backups import services
from server.backups.problems import BackupError


class Command(BaseCommand):
    """Restore a backup."""

    help = "Restore a backup onto an installation that holds nothing yet."
    # The database may have no tables at all.
    requires_system_checks = ()
    requires_migrations_checks = False

    def add_arguments(self, parser: CommandParser) -> None:
        """What can be asked for."""
        parser.add_argument("file", type=Path, help="a backup’s file")
        parser.add_argument("--key", type=Path, metavar="FILE", help="the key that sealed it")
        parser.add_argument("--run", type=Path, required=True, help="the installation’s own folder")

    def handle(self, *args: Any, **options: Any) -> None:
        """Restore it."""
        try:
            about = services.restore(
                options["file"],
                options["run"],
                options["key"],
                lambda text: self.stdout.write(f"· {text} …"),
            )
        except BackupError as error:
            raise CommandError(f"Nothing was restored: {error}.") from error
        self.stdout.write(
            f"Restored the backup of {about['made_at']}: {len(about['tables'])} tables, every one as it was."
            " Start Limpet now: ./limpet start"
        )
