"""Tables kept, found by words, tag or likeness, given up."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from aretane.desk import kept_tables
from aretane.desk.layouts import asked_layout
from aretane.web.context import asking, house
from aretane.web.kept_tables.schemas import KeepTableRequest, KeptTables, SearchRequest

blueprint = APIBlueprint("kept_tables", __name__, url_prefix="/api", tag="kept tables")


@blueprint.post("/kept-tables")
@blueprint.input(KeepTableRequest)
@blueprint.output(KeptTables)
def keep(json_data: KeepTableRequest) -> dict[str, Any]:
    """Keep a table under its name."""
    one = json_data
    layout = asked_layout(one.table, one.discipline, one.balls, None)
    return _told(kept_tables.keep(house(), asking(), one.id, one.name, one.tags, one.note, layout))


@blueprint.post("/kept-tables/search")
@blueprint.input(SearchRequest)
@blueprint.output(KeptTables)
def search(json_data: SearchRequest) -> dict[str, Any]:
    """Tables by words and tags, or the likest to one first."""
    one = json_data.like
    like = asked_layout(one.table, one.discipline, one.balls, None) if one else None
    return _told(kept_tables.found(house(), asking(), json_data.words, like))


@blueprint.delete("/kept-tables/<kept>")
@blueprint.output({}, status_code=204)
def drop(kept: str) -> str:
    kept_tables.drop(house(), asking(), kept)
    return ""


def _told(rows: list[dict[str, Any]]) -> dict[str, Any]:
    names = ("id", "name", "tags", "note", "discipline", "unlike")
    found = []
    for row in rows:
        document = row["document"]
        found.append(
            {**{name: row[name] for name in names}, "table": document["table"], "balls": document["balls"]}
        )
    return {"tables": found}
