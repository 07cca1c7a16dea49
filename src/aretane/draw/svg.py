"""Shapes and balls as one plain SVG: for reports, cards and files. It needs nothing beside itself."""

from __future__ import annotations

import math
from collections.abc import Iterable
from xml.etree.ElementTree import Element, SubElement, tostring

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.rules.traits import made_for
from aretane.core.table import Point, Table
from aretane.draw.look import LOOK, Line, ball_look
from aretane.draw.shapes import Shape, plan

LEAVE = ("cue-path", "ball-path")  # run on into the pockets, others end at the noses


def drawing(layout: Layout, shapes: Iterable[Shape] = (), *, title: str, colours: str = "light") -> str:
    """The layout with what is drawn over it, in the colours of that name. `title` says in words what is shown."""
    table, over = layout.table, list(shapes)
    M, L, W = 1000 * LOOK.margin, 1000 * table.length, 1000 * table.width
    box = f"{-M:g} {-M:g} {L + 2 * M:g} {W + 2 * M:g}"
    svg = _under(None, "svg", xmlns="http://www.w3.org/2000/svg", viewBox=box, role="img", font_family="sans-serif")
    _under(svg, "title").text = title
    pen = _Pen(table, LOOK.colours[colours])
    for shape in plan(table):
        pen.shape(svg, shape)
    _under(_under(svg, "clipPath", id="bed"), "rect", width=L, height=W)
    bed = _under(svg, "g", clip_path="url(#bed)")
    for shape in over:
        pen.shape(svg if shape.line in LEAVE else bed, shape)
    own = made_for(table)
    for ball, place in layout.balls.items():
        pen.ball(svg, ball, place, valued=own is not None and bool(own.returns))
    return tostring(svg, encoding="unicode")


def _under(parent: Element | None, name: str, **attributes: str | float | None) -> Element:
    """An element with these attributes: numbers to a tenth of a millimetre, None left out, `_` for `-`."""
    given = {
        key.replace("_", "-"): value if isinstance(value, str) else f"{round(value, 2):g}"
        for key, value in attributes.items()
        if value is not None
    }
    return Element(name, given) if parent is None else SubElement(parent, name, given)


class _Pen:
    """Paints in millimetres, y down, with colours by their names; `unit` is one pixel of the screen."""

    def __init__(self, table: Table, colours: dict[str, str]) -> None:
        self.table, self.colours = table, colours
        self.unit = 1000 * (table.length + 2 * LOOK.margin) / LOOK.screen

    def to(self, place: Point) -> Point:
        return 1000 * place[0], 1000 * (self.table.width - place[1])

    def shape(self, parent: Element, shape: Shape) -> None:
        look, points = LOOK.lines[shape.line], [self.to(place) for place in shape.points]
        words = shape.line == "end"  # printers cut letters off that fade as a group
        group = _under(parent, "g", opacity=None if words or look.opacity == 1.0 else look.opacity)
        group.set("data-line", shape.line)
        if words:
            self._end(group, points, shape.label, look)
            return
        fill = look.fill if shape.closed else None
        path = "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in points) + ("Z" if shape.closed else "")
        _under(
            group, "path", d=path, fill=self.colours[fill] if fill else "none",
            fill_opacity=look.shares[shape.part] / 100 if fill and look.shares[shape.part] < 100 else None,
            stroke=self.colours[look.stroke] if look.stroke else None,
            stroke_width=look.width * self.unit if look.stroke else None,
            stroke_dasharray=" ".join(f"{part * self.unit:.1f}" for part in look.dash) or None,
        )  # fmt: skip
        if shape.label:
            self._label(group, points, shape.label)

    def _end(self, group: Element, points: list[Point], name: str | None, look: Line) -> None:
        """What the players call an end of the table, written along its rail."""
        (x, y), (to_x, to_y) = points
        turn = math.degrees(math.atan2(to_y - y, to_x - x))
        _under(
            group, "text", transform=f"translate({x:.1f} {y:.1f}) rotate({turn:.0f})", fill=self.colours["ink"],
            font_size=look.letters * self.unit, text_anchor="middle", dominant_baseline="central",
            fill_opacity=look.opacity,
        ).text = name  # fmt: skip

    def _label(self, group: Element, points: list[Point], words: str) -> None:
        """In the middle of a line that is long enough to be named."""
        look, (x0, y0), (x1, y1) = LOOK.label, points[0], points[-1]
        if math.hypot(x1 - x0, y1 - y0) >= look["shortest"] * self.unit:
            off = look["off"] * self.unit
            _under(
                group, "text", x=(x0 + x1) / 2 + off, y=(y0 + y1) / 2 - off, fill=self.colours["ink"],
                font_size=look["letters"] * self.unit, paint_order="stroke", stroke=self.colours["cloth"],
                stroke_width=look["halo"] * self.unit,
            ).text = words  # fmt: skip

    def ball(self, parent: Element, ball: str, place: Point, *, valued: bool) -> None:
        look, own, (x, y) = LOOK.ball, ball_look(ball, valued=valued), self.to(place)
        r = 1000 * (self.table.cue_radius if ball == CUE else self.table.radius)
        size, white = "two" if len(own.label) > 1 else "one", look["white"]
        group = _under(parent, "g", transform=f"translate({x:.1f} {y:.1f})")
        group.set("data-ball", ball)
        fill = white if own.striped else own.fill
        _under(group, "circle", r=r, fill=fill, stroke=self.colours["ink"], stroke_width=self.unit)
        if own.striped:
            half = r * look["stripe"]
            edge = math.sqrt(r * r - half * half)
            right, left = (f"A{r:.1f} {r:.1f} 0 0 1 {end:.1f} {y:.1f}" for end, y in ((edge, -half), (-edge, half)))
            path = f"M{-edge:.1f} {-half:.1f}{right}L{edge:.1f} {half:.1f}{left}Z"
            _under(group, "path", d=path, fill=own.fill)
            _under(group, "circle", r=r * look["disc"][size], fill=white)
        if ball == CUE:
            _under(group, "circle", r=r * look["dot"], fill=look["dark"])
        if own.label:
            letters = look["letters"]
            _under(
                group, "text", text_anchor="middle", dominant_baseline="central", font_size=r * letters[size],
                font_weight="700", y=r * letters["down"], fill=white if own.dark else look["dark"],
            ).text = own.label  # fmt: skip
