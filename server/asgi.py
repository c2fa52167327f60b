"""The ASGI entry point that uvicorn serves."""

import os
from typing import Any, cast

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")

from django.core.asgi import get_asgi_application

from server.doorway import Doorway

application = Doorway(cast(Any, get_asgi_application()))
