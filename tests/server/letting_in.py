"""Files of strangers, dropped, looked at and taken over HTTP."""

from datetime import timedelta
from uuid import uuid4

from django.core.files.uploadedfile import SimpleUploadedFile

from tests.core.foreign.strangers import BEGAN, SHAPES, ride

OF = {shape.name: shape for shape in SHAPES}
RIDES = """Date;Route;Distance (km);Volts before;Volts after;Wh;Temp (°C);Note
03.05.2025;Quay loop;12,4;54,4;49,8;142;14;dry
10.05.2025;To the light;18,1;54,3;47,2;;9;headwind
17.05.2025;Quay loop;twelve;54,4;50,1;139;15;
24.05.2025;Quay loop;12,5;54,4;49,6;147;17;
"""


def drop(api, files, drop_id=None):
    parts = [SimpleUploadedFile(name, data) for name, data in files.items()]
    return api.client.post("/api/imports", {"id": str(drop_id or uuid4()), "files": parts})


def look(api, dropped, key=0, **asked):
    answer = api.post(f"/imports/{dropped['id']}/parts/{key}/look", asked)
    assert answer.status_code == 200, answer.content
    return answer.json()


def take(api, dropped, parts, **more):
    body = {"id": str(uuid4()), "parts": parts, "title": "A stranger’s ride", **more}
    return api.post(f"/imports/{dropped['id']}/store", body)


def log_part(looked, key=0, **more):
    return {"key": key, "use": "log", "mapping": looked["mapping"], **more}


def gpx(rows=600, shift_s=0.0, form="%Y-%m-%dT%H:%M:%SZ"):
    truth = ride()
    points = "".join(
        f'<trkpt lat="{truth["latitude_deg"][k]:.7f}" lon="{truth["longitude_deg"][k]:.7f}">'
        f"<ele>{truth['altitude_m'][k]:.1f}</ele>"
        f"<time>{(BEGAN + timedelta(seconds=k + shift_s)).strftime(form)}</time></trkpt>"
        for k in range(rows)
    )
    head = '<?xml version="1.0"?><gpx version="1.1" creator="made up" xmlns="http://www.topografix.com/GPX/1/1">'
    return f"{head}<trk><trkseg>{points}</trkseg></trk></gpx>".encode()
