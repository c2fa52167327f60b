"""What a backup or a restore stops at."""


class BackupError(Exception):
    """One sentence for whoever runs Limpet: what, where, what to do."""
