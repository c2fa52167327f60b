"""What uvicorn serves: Django in threads that stay, behind a door that looks before anything is read."""

import os
from typing import Any, cast

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")

from a2wsgi import WSGIMiddleware
from django.conf import settings
from django.core.wsgi import get_wsgi_application

from server.doorway import Doorway

_inside = WSGIMiddleware(cast(Any, get_wsgi_application()), workers=settings.THREADS)
application = Doorway(cast(Any, _inside))
