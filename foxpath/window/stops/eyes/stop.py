"""Stop 6, Eyes: eyes first, then what else nobody forgives, and the check of the drawing before any paint."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from foxpath.core.findings import Finding
from foxpath.core.units import count_words
from foxpath.derive.subjects import EYES
from foxpath.window.bench.bench import panel
from foxpath.window.bench.controls import Choice
from foxpath.window.bench.rows import NextStep
from foxpath.window.look import draw
from foxpath.window.picture.rulers import square_name
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import FindingList, Stop
from foxpath.window.stops.eyes.drawing import DrawingPage
from foxpath.window.stops.eyes.features import FeaturesPage
from foxpath.window.stops.eyes.marking import EyesPage
from foxpath.window.stops.eyes.page import Page
from foxpath.window.stops.on_picture import Point


class EyesStop(Stop):
    """Three pages that take turns with bench and picture."""

    code, title = "eyes", "Eyes"
    cursor = Qt.CursorShape.CrossCursor

    def make_panel(self) -> QWidget:
        self.next = NextStep("outline")
        self.next.asked.connect(self._next)
        self.findings = FindingList("eyes")
        self.findings.asked.connect(self._finding)
        self.eyes = EyesPage(self.session, self.picture, self)
        self.features = FeaturesPage(self.session, self.picture, self)
        self.drawing = DrawingPage(self.session, self.picture, self)
        self.pages: dict[str, Page] = {page.code: page for page in (self.eyes, self.features, self.drawing)}
        self.page: Page = self.eyes
        for page in self.pages.values():
            page.changed.connect(self._page_changed)
            page.body.setVisible(page is self.page)
        self.turns = Choice([("eyes", "eyes"), ("features", "features"), ("drawing", "a drawing")], "page")
        self.turns.chosen.connect(self.open_page)
        return panel(self.next, self.turns, self.findings, *(page.body for page in self.pages.values()))

    def open_page(self, code: str) -> None:
        """Open the page of eyes, of features, or the drawing's."""
        self.page.leave()
        self.page = self.pages[code]
        self.turns.set_value(code)
        for page in self.pages.values():
            page.body.setVisible(page is self.page)
        self.page.enter()
        self.refresh()
        self.picture.update()

    def _page_changed(self) -> None:
        if self.session.project is not None and self.session.chosen.stop == self.code:
            self.refresh()
            self.picture.update()

    def refresh(self) -> None:
        if self.session.project is None:
            return
        readings = self.session.readings
        project = self.session.project
        on_features = self.page is self.features
        shown = [
            one
            for one in (readings.findings if readings is not None and self.page is not self.drawing else ())
            if (project.feature(one.subject) is not None) == on_features
        ]
        self.findings.set_findings(shown, [("show", "show me")])
        self.next.set_words(*self.page.next_step())
        self.page.refresh()

    def reading(self) -> str:
        project, readings = self.session.project, self.session.readings
        if project is None or not project.eyes:
            return "none marked yet"
        count = count_words(len(project.eyes), "eye")
        faults = sum(c.level != "note" for c in readings.of(EYES).checks) if readings is not None else 0
        if faults:
            return f"{count} · {faults} to look at"
        more = count_words(len(project.features), "feature") if project.features else "in place"
        return f"{count} · {more}"

    def state(self) -> draw.State:
        project, readings = self.session.project, self.session.readings
        if project is None or not project.eyes:
            return "no"
        if readings is not None and any(c.level == "must" for c in readings.of(EYES).checks):
            return "you"
        return (
            "ready"
            if readings is not None and not any(c.level != "note" for c in readings.of(EYES).checks)
            else "begun"
        )

    def _next(self) -> None:
        if self.page.next_step()[2] == "Go on":
            self.go_on()
        else:
            self.page.take_next()

    def _finding(self, _: str, finding: Finding) -> None:
        project = self.session.project
        if project is None:
            return
        code = "features" if project.feature(finding.subject) is not None else "eyes"
        if self.page.code != code:
            self.open_page(code)
        self.page.show_finding(finding)

    # Gestures: the open page's --------------------------------------------------------------------

    def busy(self) -> bool:
        return self.page.busy()

    def take_back(self) -> bool:
        return self.page.take_back()

    def leave(self) -> None:
        self.page.leave()

    def enter(self) -> None:
        self.page.enter()

    def paint(self, p: QPainter, view: Viewport) -> None:
        if self.session.project is not None:
            self.page.paint(p, view)

    def press(self, at: Point, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.page.press(at, event)

    def drag(self, at: Point, event: QMouseEvent) -> None:
        self.page.drag(at, event)

    def release(self, at: Point, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.page.release(at, event)

    def hover(self, at: Point) -> None:
        self.page.hover(at)

    def key(self, event: QKeyEvent) -> bool:
        return self.page.key(event)

    def words_at(self, at: Point) -> str:
        project = self.session.project
        own = self.page.words_at(at) if project is not None else ""
        return f"{square_name(project, *at)} · {own}" if project is not None and own else super().words_at(at)
