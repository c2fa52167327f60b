"""Where values stand in a JSON file."""

import json

from hypothesis import given
from hypothesis import strategies as st

from limpet.files.jsonfile import parse_json

SCALARS = (
    st.none() | st.booleans() | st.integers(-999, 999) | st.floats(-1e6, 1e6) | st.text(max_size=6)
)
DOCUMENTS = st.recursive(
    SCALARS,
    lambda inner: (
        st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=5), inner, max_size=4)
    ),
    max_leaves=12,
)


def at(document, path):
    for part in path:
        document = document[part]
    return document


@given(DOCUMENTS, st.sampled_from([None, 0, 1, 3]), st.booleans())
def test_every_value_is_found_where_it_stands(document, indent, ascii_only):
    text = json.dumps(document, indent=indent, ensure_ascii=ascii_only)
    found, positions = parse_json(
        "x.json", text.encode("utf-8", "surrogatepass") if ascii_only else text.encode()
    )
    assert found == document
    lines = text.split("\n")
    decoder = json.JSONDecoder()
    for path, (line, column) in positions.items():
        rest = "\n".join([lines[line - 1][column - 1 :], *lines[line:]])
        assert decoder.raw_decode(rest)[0] == at(document, path)
    assert () in positions


def test_every_leaf_has_a_position():
    _, positions = parse_json("x.json", b'{"a": [1, {"b": "x,}"}],\n "c": null}')
    assert set(positions) == {(), ("a",), ("a", 0), ("a", 1), ("a", 1, "b"), ("c",)}
    assert positions["c",] == (2, 7)
