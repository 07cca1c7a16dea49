"""Tables out, read back by other readers: CSV by the standard library, XLSX by openpyxl, chapters by PyAV."""

from __future__ import annotations

import csv
import io
import json

import av
import openpyxl
import pyarrow.parquet as parquet
import pytest

from aretane.core.errors import Refused
from aretane.core.review.replay import replay
from aretane.core.statistics.flat import COLUMNS, rows
from aretane.formats.tables import as_csv, as_parquet, as_vtt, as_xlsx
from tests.lost_rack import lost_rack


@pytest.fixture
def match(demo_match):
    return {**demo_match, "racks": demo_match["racks"][:1]}


def flat(match, ledger=None):
    return rows(match, replay(match), ledger)


def test_the_flat_table_has_a_row_for_each_entry_and_reads_back(match):
    read = list(csv.DictReader(io.StringIO(as_csv(flat(match)))))
    shots = match["racks"][0]["shots"]
    assert len(read) == len(shots)
    assert list(read[0]) == [column.name for column in COLUMNS]
    assert [one["ball"] for one in read] == [(shot.get("called") or {}).get("ball") or "" for shot in shots]
    made = [one for one in read if one["tried"] == "True" and one["made"] == "True"]
    assert made
    assert all(0.0 <= float(one["cut_deg"]) <= 90.0 for one in made if one["cut_deg"])
    assert all(one["win_before"] == "" for one in read), "not judged: no values"


def test_values_of_the_ledger_stand_beside_the_shots():
    match = lost_rack()
    booked = [{"before": 0.5, "after": 0.6, "decision": -0.02, "pot": None} for _ in match["racks"][0]["shots"]]
    read = list(csv.DictReader(io.StringIO(as_csv(flat(match, {"racks": [{"shots": booked}]})))))
    assert [(one["win_before"], one["decision"], one["pot_value"]) for one in read] == [("0.5", "-0.02", "")] * 3


@pytest.mark.parametrize("note", ["=1+1", "@SUM(A1)", "+cmd", "-2", 'a "quoted", line\nand another'])
def test_words_are_words_in_a_spreadsheet(note):
    match = lost_rack()
    match["racks"][0]["shots"][0]["note"] = note
    (first, *_) = csv.DictReader(io.StringIO(as_csv(flat(match))))
    assert first["note"].removeprefix("'") == note
    assert not first["note"].startswith(("=", "+", "-", "@"))
    book = openpyxl.load_workbook(io.BytesIO(as_xlsx(flat(match))))
    cell = book["shots"].cell(2, [column.name for column in COLUMNS].index("note") + 1)
    assert cell.data_type == "s"
    assert cell.value == note


def test_the_workbook_tells_its_columns(match):
    book = openpyxl.load_workbook(io.BytesIO(as_xlsx(flat(match))))
    assert book.sheetnames == ["shots", "columns"]
    told = {row[0].value: row[1].value for row in book["columns"].iter_rows()}
    assert told == {column.name: column.means for column in COLUMNS}
    assert book["shots"].max_row == 1 + len(match["racks"][0]["shots"])


def test_chapters_by_another_reader(tmp_path):
    match = lost_rack()
    for at, shot in enumerate(match["racks"][0]["shots"]):
        shot["time"] = {"start": 10.0 * at + 1.5, "contact": 10.0 * at + 3.0, "still": 10.0 * at + 9.25}
    match["players"]["A"]["name"] = "A <b> --> Brant"
    path = tmp_path / "chapters.vtt"
    path.write_text(as_vtt(match))
    with av.open(str(path)) as file:
        packets = [packet for packet in file.demux() if packet.dts is not None]
        unit = float(file.streams[0].time_base)
    assert [round(packet.pts * unit, 3) for packet in packets] == [1.5, 11.5, 21.5]
    assert [round(packet.duration * unit, 3) for packet in packets] == [7.75, 7.75, 7.75]
    assert b"8 ball foot left" in bytes(packets[0])


def test_chapters_of_a_match_without_times_are_refused():
    with pytest.raises(Refused, match="no shot"):
        as_vtt(lost_rack())


def test_over_the_interface(client):
    game = client.post("/games/import", {**lost_rack(), "title": "For a table"}).json
    for form, sort in (("csv", "text/csv"), ("xlsx", "application/vnd"), ("json", "application/json")):
        answer = client.get(f"/games/{game['id']}/export?form={form}")
        assert answer.status_code == 200
        assert answer.mimetype.startswith(sort)
        assert answer.data
    assert client.get(f"/games/{game['id']}/export?form=vtt").status_code == 422
    assert client.get(f"/games/{game['id']}/export?form=exe").status_code == 422
    assert json.loads(client.get(f"/games/{game['id']}/export").data)["title"] == "For a table"
    client.send("DELETE", f"/games/{game['id']}")


def test_parquet_has_the_types_of_its_columns_and_what_they_mean(match):
    """Read back by pyarrow."""
    table = parquet.read_table(io.BytesIO(as_parquet(flat(match))))
    assert table.column_names == [column.name for column in COLUMNS]
    assert table.num_rows == sum(len(rack["shots"]) for rack in match["racks"])
    assert table.schema.field("cut_deg").type == "double"
    assert table.schema.field("made").type == "bool"
    assert table.schema.field("cut_deg").metadata[b"means"] == b"cut angle, degrees"
    assert table.column("player").to_pylist()[0] == match["players"]["A"]["name"]
    assert parquet.read_table(io.BytesIO(as_parquet([]))).num_rows == 0
