"""The ASGI entry point that uvicorn serves."""

import os

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")

from django.core.asgi import get_asgi_application

from server.doorway import Doorway

application = Doorway(get_asgi_application())
