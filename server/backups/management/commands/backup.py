"""`./limpet backup`: all that this installation keeps, in one file."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.backups import archive, services
from server.backups.problems import BackupError


class Command(BaseCommand):
    """Make a backup, and try it."""

    requires_system_checks = ()
    help = "Make a backup while Limpet serves, and try it in a scratch database."

    def add_arguments(self, parser: CommandParser) -> None:
        """What can be asked for."""
        parser.add_argument("--to", type=Path, help="folder for it (default: backups, beside .run)")
        parser.add_argument("--key", type=Path, metavar="FILE", help="seal it with this key")
        parser.add_argument(
            "--new-key", type=Path, metavar="FILE", help="make a key, and nothing else"
        )
        parser.add_argument("--run", type=Path, required=True, help="the installation’s own folder")

    def handle(self, *args: Any, **options: Any) -> None:
        """Make it."""
        run: Path = options["run"]
        try:
            if options["new_key"] is not None:
                archive.new_key(options["new_key"])
                self.stdout.write(
                    f"The key is in {options['new_key']}. Keep a copy elsewhere: without it no sealed backup opens."
                )
                return
            folder = options["to"] or run.parent / "backups"
            made = services.make(
                folder, run, options["key"], lambda text: self.stdout.write(f"· {text} …")
            )
        except BackupError as error:
            raise CommandError(f"No backup was made: {error}.") from error
        self.stdout.write(
            f"Backed up {made.rows:,} rows, {made.bytes / 1e6:.1f} MB, tried and whole: {made.file}"
        )
