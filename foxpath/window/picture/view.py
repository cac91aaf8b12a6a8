"""The picture: the reference or the rehearsal, with the open stop's overlay, rulers and gestures."""

from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QEasingCurve, QEvent, QPointF, QRectF, Qt, QTimer, QVariantAnimation, Signal
from PySide6.QtGui import (
    QDragEnterEvent,
    QDropEvent,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPixmap,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from foxpath.core.arrays import F64, U8, Rgb8
from foxpath.core.frame import Crop
from foxpath.derive.lengths.overlay import GrowthOverlay
from foxpath.derive.reference.seeing import Look
from foxpath.document.model import Project, Zone
from foxpath.window.look import draw
from foxpath.window.look.focus import Focusable
from foxpath.window.look.theme import colour, theme
from foxpath.window.picture import rulers
from foxpath.window.picture.glass import Glass, true_px_per_mm
from foxpath.window.picture.rulers import THICK
from foxpath.window.picture.viewport import Viewport, place, transform_of
from foxpath.window.stops.base import Stop
from foxpath.window.work.session import Session


def image_of(rgb: U8) -> QImage:
    """Return an (H, W, 3) RGB or (H, W, 4) premultiplied RGBA array as an image over the same bytes.

    The image keeps the array alive; neither may be written to afterwards.
    """
    rgb = np.ascontiguousarray(rgb)
    height, width, depth = rgb.shape
    kind = QImage.Format.Format_RGB888 if depth == 3 else QImage.Format.Format_RGBA8888_Premultiplied
    return QImage(rgb.data, width, height, width * depth, kind)


@dataclass(slots=True)
class Seen:
    """A picture seen through the aids, and what it shows of the reference."""

    image: QImage
    crop: Crop


@dataclass(slots=True)
class Overlay:
    """A drawn growth overlay and the map it was drawn for."""

    image: QImage
    affine: F64


def stepped_back(room: QRectF) -> QRectF:
    """Return where the picture lies when it steps back: a third of the room, in its lower right corner."""
    width, height = min(316.0, room.width() * 0.36), min(258.0, room.height() * 0.42)
    return QRectF(room.right() - width - 4, room.bottom() - height - 4, width, height)


class PictureView(Focusable):
    """Shows, zooms, pans, and hands gestures to the open stop."""

    pointed = Signal(str)
    """Words on what lies under the pointer."""
    dropped = Signal(str)
    """A file dropped here."""
    view_moved = Signal()
    """Zoomed or panned."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session = session
        self.viewport = Viewport()
        self.stop: Stop | None = None
        self.opened = False
        self._levels: list[QImage] = []
        self._seen: Seen | None = None
        self._seen_whole: Seen | None = None
        self._whole_of: object = None
        self.glass = Glass(self)
        self.room_share = 1.0
        self.painting: QImage | None = None
        self._painting_rgb: Rgb8 | None = None
        self.overlay: Overlay | None = None
        self._pan_from: QPointF | None = None
        self._space = False
        self._cross, self._held = False, False
        self.pointer: QPointF | None = None
        self._rulers = QPixmap()
        self._rulers_key: object = None
        self._still = QPixmap()
        self._still_key: object = None
        self._ring: tuple[tuple[float, float], float] | None = None
        self.setMouseTracking(True)
        self.setAcceptDrops(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("the picture")
        self._overlay_soon = QTimer(self)
        self._overlay_soon.setSingleShot(True)
        self._overlay_soon.setInterval(15)
        self._overlay_soon.timeout.connect(self._draw_overlay)
        self._look_soon = QTimer(self)
        self._look_soon.setSingleShot(True)
        self._look_soon.setInterval(25)
        self._look_soon.timeout.connect(self._look)
        self._flight = QVariantAnimation(self)
        self._flight.setDuration(320)
        self._flight.setEasingCurve(QEasingCurve.Type.OutCubic)
        self._flight.valueChanged.connect(self._fly)
        self._flight_from = ((0.0, 0.0), 1.0)
        self._flight_to = ((0.0, 0.0), 1.0)
        session.picture_ready.connect(self._take_picture)

    # What is shown --------------------------------------------------------------------------------

    def _take_picture(self) -> None:
        self._levels = [image_of(level) for level in self.session.levels]
        self.refresh_region(fit=self.viewport.fitted)
        self.refresh_aid()
        self.update()

    def set_stop(self, stop: Stop) -> None:
        """Show another stop's overlay and hand gestures to it."""
        back = self._steps_back()
        self.stop = stop
        self.overlay = None
        if back or self._steps_back():
            self._take_room()
        self.setCursor(stop.cursor)
        self.refresh_region(fit=self.viewport.fitted)
        self.refresh_overlay()
        self.refresh_aid()
        self.update()

    def refresh_region(self, *, fit: bool) -> None:
        """Show the whole picture at the stop that crops it, the crop at the others."""
        project = self.session.project
        if project is None:
            return
        reference = project.reference
        whole = self.stop is not None and self.stop.shows_whole
        region = Crop(0, 0, reference.width, reference.height) if whole else project.crop
        if region != self.viewport.region or fit:
            self.viewport.region = region
            self.viewport.fit()
        chosen = self.session.chosen
        self.viewport.mirrored, self.viewport.upside_down = chosen.mirrored, chosen.upside_down
        if self.viewport.turns != chosen.turns:
            self.viewport.turns = chosen.turns
            if self.viewport.fitted:
                self.viewport.fit()
        self.update()

    def show_painting(self, rgb: Rgb8 | None) -> None:
        """Show a rehearsed painting in place of the reference, or the reference again."""
        self._painting_rgb = rgb
        self.painting = image_of(rgb) if rgb is not None else None
        self.refresh_aid()
        self.update()

    def looking(self) -> tuple[list[Rgb8], Crop]:
        """Return the levels of what is shown, and what they show of the reference."""
        project = self.session.project
        assert project is not None
        if self._painting_rgb is not None and self.stop is not None and self.stop.shows_painting:
            return [self._painting_rgb], project.crop
        return self.session.levels, Crop(0, 0, project.reference.width, project.reference.height)

    def kinds(self) -> frozenset[str]:
        """Return the aids in use that change the picture's colours."""
        return self.session.chosen.aids - {"alone"}

    def request(self, part: Crop, px_per_px: float) -> Look:
        """Return the request that sees a part of the picture through the aids."""
        project = self.session.project
        assert project is not None
        levels, whole = self.looking()
        return Look(levels, whole, part, px_per_px, project, self.kinds())

    def refresh_aid(self) -> None:
        """See the picture again through the chosen aids: first what is visible, then the whole of it, small."""
        project = self.session.project
        if project is None or not self.kinds() or not self.session.levels:
            self._seen = self._seen_whole = self._whole_of = None
            self.session.runner.cancel("look")
            self.session.runner.cancel("look whole")
            self.update()
            return
        self._look()

    def _look(self) -> None:
        if self.session.project is None or not self.kinds() or not self.session.levels:
            return
        part = self.viewport.shown(self.looking()[1])
        if part is not None:
            px = self.viewport.scale * self.devicePixelRatioF()
            self.session.runner.start("look", self.request(part, px), self._take_look)
            self.glass.look()

    def _take_look(self, value: tuple[Crop, Rgb8]) -> None:
        self._seen = Seen(image_of(value[1]), value[0])
        self.update()
        self._look_whole()

    def _look_whole(self) -> None:
        """See the whole picture too, small: it stands in where the view moves to next."""
        project = self.session.project
        assert project is not None
        _, whole = self.looking()
        of = (
            self.kinds(),
            self.session.levels_taken,
            project.seeing,
            project.focal_point,
            project.canvas,
            project.crop,
        )
        if of != self._whole_of:
            self._whole_of = of
            small = 900 / max(whole.width, whole.height)
            self.session.runner.start("look whole", self.request(whole, small), self._take_whole)

    def _take_whole(self, value: tuple[Crop, Rgb8]) -> None:
        self._seen_whole = Seen(image_of(value[1]), value[0])
        self.update()

    def use_share(self, share: float) -> None:
        """Leave part of the room at the right to something else; 1 gives all of it to the picture."""
        if share != self.room_share:
            self.room_share = share
            self._take_room()

    def true_size(self) -> None:
        """Show the canvas as large as it will be painted."""
        project = self.session.project
        if project is not None:
            self.viewport.show(self.viewport.centre)
            self.viewport.scale = true_px_per_mm(self)[0] * project.mm_per_px
            self.moved()

    # The growth overlay ---------------------------------------------------------------------------

    def refresh_overlay(self, *, now: bool = False) -> None:
        """Draw the growth again soon (or at once), when the open stop shows it."""
        if self.stop is not None and self.stop.growth_gap > 0 and self.session.project is not None:
            if now:
                self._overlay_soon.stop()
                self._draw_overlay()
            else:
                self._overlay_soon.start()
        else:
            self._overlay_soon.stop()
            self.session.runner.cancel("growth")
            self.overlay = None
            self.update()

    def _draw_overlay(self) -> None:
        project, stop = self.session.project, self.stop
        if project is None or stop is None or stop.growth_gap <= 0 or self.width() < 2 or self.height() < 2:
            return
        ratio = self.devicePixelRatioF()
        affine = self.viewport.affine() * ratio
        self._overlay_for = self.viewport.affine()
        request = GrowthOverlay(
            self.session.results,
            project,
            affine,
            round(self.width() * ratio),
            round(self.height() * ratio),
            stop.growth_gap * ratio,
            stop.shows_doubt,
            stop.growth_strength,
            stop.resting_combs(),
            stop.growth_streams,
        )
        self.session.runner.start("growth", request, self._take_overlay)

    def _take_overlay(self, rgba: U8) -> None:
        image = image_of(rgba)
        image.setDevicePixelRatio(self.devicePixelRatioF())
        self.overlay = Overlay(image, self._overlay_for)
        self.update()

    # Moving about ---------------------------------------------------------------------------------

    def moved(self) -> None:
        """Redraw after zooming or panning."""
        self.refresh_overlay()
        if self.kinds():
            self._look_soon.start()
        self.update()
        self.view_moved.emit()

    def fit(self) -> None:
        """Show everything."""
        self.viewport.fit()
        self.moved()

    def zoom(self, factor: float) -> None:
        """Zoom about the middle."""
        self.viewport.zoom(factor, self.viewport.room.center())
        self.moved()

    def fly_to(self, point: tuple[float, float], size_px: float = 0.0) -> None:
        """Fly to a reference pixel so that `size_px` around it fills a third of the view, then ring it."""
        view = self.viewport
        scale = view.scale
        if size_px > 0:
            scale = max(scale, min(view.room.width(), view.room.height()) / 3 / size_px)
            scale = min(scale, view.scale * 2.6)
        self._flight_from = (view.centre, view.scale)
        self._flight_to = (point, scale)
        self._ring = (point, 1.0)
        self._flight.stop()
        self._flight.setStartValue(0.0)
        self._flight.setEndValue(1.0)
        self._flight.start()
        QTimer.singleShot(1100, self._end_ring)

    def flying(self) -> bool:
        """Tell whether the view is on its way to a spot, or still rings it."""
        return self._ring is not None

    def _fly(self, t: float) -> None:
        (x0, y0), s0 = self._flight_from
        (x1, y1), s1 = self._flight_to
        self.viewport.scale = s0 + (s1 - s0) * t
        self.viewport.show((x0 + (x1 - x0) * t, y0 + (y1 - y0) * t))
        self.moved()

    def _end_ring(self) -> None:
        self._ring = None
        self.update()

    # Events ---------------------------------------------------------------------------------------

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._take_room()

    def _steps_back(self) -> bool:
        return self.stop is not None and self.stop.steps_back

    def _take_room(self) -> None:
        width = (self.width() - THICK) * self.room_share
        room = QRectF(THICK, THICK, width, self.height() - THICK)
        if self._steps_back():
            # A new room, and the whole of it: where it was looked at closely before does not matter here.
            self.viewport.fitted = True
            room = stepped_back(QRectF(self.rect()))
        self.viewport.resize(room)
        self.moved()

    def wheelEvent(self, event: QWheelEvent) -> None:
        if self.session.project is None:
            return
        if self._steps_back() and self.stop is not None and not self.viewport.room.contains(event.position()):
            self.stop.wheel(event.angleDelta().y() / 120)
            self.update()
            return
        self.viewport.zoom(1.0015 ** event.angleDelta().y(), event.position())
        self.moved()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        middle = event.button() == Qt.MouseButton.MiddleButton
        if middle or (self._space and event.button() == Qt.MouseButton.LeftButton):
            self._pan_from = event.position()
            self.setCursor(Qt.CursorShape.ClosedHandCursor)
            return
        if self.stop is not None and self.session.project is not None:
            self.stop.press(self.viewport.to_reference(event.position()), event)
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.spontaneous():
            # A real mouse takes over from the cross.
            self._cross = False
        self.pointer = event.position()
        self.glass.look()
        if self._pan_from is not None:
            self.viewport.pan(event.position() - self._pan_from)
            self._pan_from = event.position()
            self.moved()
            return
        if self.stop is not None and self.session.project is not None:
            at = self.viewport.to_reference(event.position())
            if event.buttons() & Qt.MouseButton.LeftButton:
                self.stop.drag(at, event)
            else:
                self.stop.hover(at)
            self.pointed.emit(self.stop.words_at(at))
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._pan_from is not None:
            self._pan_from = None
            self.setCursor(self.stop.cursor if self.stop else Qt.CursorShape.ArrowCursor)
            return
        if self.stop is not None and self.session.project is not None:
            self.stop.release(self.viewport.to_reference(event.position()), event)
            self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if self.stop is not None and self.session.project is not None:
            self.stop.double_click(self.viewport.to_reference(event.position()), event)
            self.update()

    def repoint(self) -> None:
        """Say again what lies under the pointer: the numbers have changed, not the place."""
        if self.pointer is not None and self.stop is not None and self.session.project is not None:
            self.pointed.emit(self.stop.words_at(self.viewport.to_reference(self.pointer)))

    def leaveEvent(self, event: QEvent) -> None:
        if not self._cross:
            self.pointer = None
        self.pointed.emit("")
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if self._point_by_keys(event):
            return
        if event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = True
            self.setCursor(Qt.CursorShape.OpenHandCursor)
            return
        by = {
            Qt.Key.Key_Left: (60, 0), Qt.Key.Key_Right: (-60, 0), Qt.Key.Key_Up: (0, 60), Qt.Key.Key_Down: (0, -60),
        }.get(Qt.Key(event.key()))  # fmt: skip
        if self.stop is not None and self.session.project is not None and self.stop.key(event):
            self.update()
        elif by is not None:
            self.viewport.pan(QPointF(*by))
            self.moved()
        else:
            super().keyPressEvent(event)

    def _point_by_keys(self, event: QKeyEvent) -> bool:
        """Point without a mouse: Alt and arrows move a cross, Ctrl Space presses there and lets go again."""
        by = {
            Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1),
        }.get(Qt.Key(event.key()))  # fmt: skip
        alt, control = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ControlModifier
        if by is not None and event.modifiers() & alt:
            step = 1.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 8.0
            at = (self.pointer or self.viewport.room.center()) + QPointF(by[0] * step, by[1] * step)
            room = self.viewport.room
            self.pointer = QPointF(
                min(max(at.x(), room.left()), room.right()), min(max(at.y(), room.top()), room.bottom())
            )
            self._cross = True
            self.mouseMoveEvent(self._made_event(QEvent.Type.MouseMove))
            return True
        if event.key() == Qt.Key.Key_Space and event.modifiers() & control:
            if self.pointer is None or event.isAutoRepeat():
                return True
            self._cross, self._held = True, not self._held
            if self._held:
                self.mousePressEvent(self._made_event(QEvent.Type.MouseButtonPress))
            else:
                self.mouseReleaseEvent(self._made_event(QEvent.Type.MouseButtonRelease))
            return True
        return False

    def _made_event(self, kind: QEvent.Type) -> QMouseEvent:
        at = self.pointer or self.viewport.room.center()
        left, none = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton
        button = none if kind == QEvent.Type.MouseMove else left
        held = left if self._held else none
        return QMouseEvent(kind, at, self.mapToGlobal(at), button, held, Qt.KeyboardModifier.NoModifier)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = False
            self.setCursor(self.stop.cursor if self.stop else Qt.CursorShape.ArrowCursor)
            return
        if self.stop is None or not self.stop.key_up(event):
            super().keyReleaseEvent(event)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls() and event.mimeData().urls()[0].isLocalFile():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self.dropped.emit(event.mimeData().urls()[0].toLocalFile())
        event.acceptProposedAction()

    # Painting -------------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            p.fillRect(self.rect(), colour("well"))
            project = self.session.project
            if project is None:
                return
            back = self._steps_back()
            if back and self.stop is not None:
                self.stop.paint_ground(p, QRectF(self.rect()))
            p.save()
            p.setClipRect(self.viewport.room)
            self._paint_picture(p)
            p.save()
            p.setClipRect(self.viewport.region_on_screen(), Qt.ClipOperation.IntersectClip)
            self._paint_overlay(p)
            self._paint_alone(p)
            p.restore()
            if self.stop is not None:
                self._paint_still(p, self.stop)
                self.stop.paint(p, self.viewport)
            if self._ring is not None:
                at = self.viewport.at(self._ring[0])
                draw.circle(p, at.x(), at.y(), 30, "", "over_dark", 4)
                draw.circle(p, at.x(), at.y(), 30, "", "russet", 2)
            p.restore()
            self.glass.paint(p)
            if self._cross and self.pointer is not None:
                draw.cross(p, self.pointer.x(), self.pointer.y(), held=self._held)
            if not back and (self.stop is None or self.stop.ruled):
                self._paint_rulers(p, project)
            if self.ring_shown():
                draw.focus_ring(p, self.viewport.room.adjusted(1, 1, -1, -1), 4)

    def _paint_still(self, p: QPainter, stop: Stop) -> None:
        """Draw the stop's still overlay from a picture of it, which is made again only when it changes."""
        still = stop.still_key()
        if still is None:
            self._still_key, self._still = None, QPixmap()
            return
        ratio = self.devicePixelRatioF()
        affine = tuple(self.viewport.affine().ravel())
        key = (stop.code, still, self.size().toTuple(), affine, theme().name, ratio)
        if key != self._still_key:
            self._still_key = key
            self._still = QPixmap(self.size() * ratio)
            self._still.setDevicePixelRatio(ratio)
            self._still.fill(Qt.GlobalColor.transparent)
            with QPainter(self._still) as on:
                on.setRenderHint(QPainter.RenderHint.Antialiasing)
                stop.paint_still(on, self.viewport)
        p.drawPixmap(0, 0, self._still)

    def _paint_rulers(self, p: QPainter, project: Project) -> None:
        """Draw the rules from a picture of them, which is made again only when the view changes."""
        ground = "plate" if self.opened else "base"
        ratio = self.devicePixelRatioF()
        affine = tuple(self.viewport.affine().ravel())
        key = (self.size().toTuple(), affine, project.canvas, project.crop, ground, theme().name, ratio)
        if key != self._rulers_key:
            self._rulers_key = key
            size = self.size() * ratio
            self._rulers = QPixmap(size)
            self._rulers.setDevicePixelRatio(ratio)
            self._rulers.fill(Qt.GlobalColor.transparent)
            with QPainter(self._rulers) as made:
                made.setRenderHint(QPainter.RenderHint.Antialiasing)
                rulers.paint(made, self.width(), self.height(), self.viewport, project, ground)
        p.drawPixmap(0, 0, self._rulers)
        rulers.paint_pointer(p, self.pointer)

    def _paint_picture(self, p: QPainter) -> None:
        project = self.session.project
        if project is None or not self._levels:
            box = self.viewport.region_on_screen()
            p.fillRect(box, colour("#6A6A6A"))
            draw.over_words(p, box.center().x(), box.center().y(), "opening the picture", "c")
            return
        region = self.viewport.region
        p.save()
        p.setClipRect(self.viewport.region_on_screen())
        if self._seen_whole is None or self._seen is None:
            self.place_plain(p, self.viewport)
        if self.kinds():
            for seen in (self._seen_whole, self._seen):
                if seen is not None:
                    self.place(p, seen.image, seen.crop)
        p.restore()
        p.setPen(QPen(colour("#1A1A1A"), 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRect(self.viewport.crop_on_screen(region).adjusted(-0.5, -0.5, 0.5, 0.5))

    def place_plain(self, p: QPainter, view: Viewport) -> None:
        """Draw the picture without aids, for a view of it."""
        project = self.session.project
        assert project is not None
        if self.painting is not None and self.stop is not None and self.stop.shows_painting:
            self.place(p, self.painting, project.crop, view)
            return
        reference = project.reference
        wanted = view.scale * self.devicePixelRatioF() * reference.width
        # The smallest level that still has a pixel for every pixel of the screen.
        image = next((one for one in reversed(self._levels) if one.width() >= wanted), self._levels[0])
        self.place(p, image, Crop(0, 0, reference.width, reference.height), view)

    def place(self, p: QPainter, image: QImage, crop: Crop, view: Viewport | None = None) -> None:
        """Draw an image over a crop of the reference."""
        place(p, view or self.viewport, image, crop)

    def _paint_alone(self, p: QPainter) -> None:
        """Cover everything but the chosen zone, as far as nothing lies over it."""
        project, chosen = self.session.project, self.session.chosen
        zone = project.zone(chosen["zone"]) if project is not None and "alone" in chosen.aids else None
        if project is None or zone is None:
            return
        rest = QPainterPath()
        rest.addRect(self.viewport.region_on_screen())
        zones = project.back_to_front()
        if not zone.whole:
            rest -= self._zone_path(zone)
        for front in zones[zones.index(zone) + 1 :]:
            if front.kind_of().cover and not front.whole:
                rest += self._zone_path(front)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(colour("well"))
        p.drawPath(rest)

    def _zone_path(self, zone: Zone) -> QPainterPath:
        path = QPainterPath()
        path.addPolygon(draw.polygon(self.viewport.to_screen(zone.shape.outline())))
        path.closeSubpath()
        return path

    def _paint_overlay(self, p: QPainter) -> None:
        if self.overlay is None or self.stop is None or self.stop.growth_gap <= 0:
            return
        now, then = self.viewport.affine(), self.overlay.affine
        if np.allclose(now, then):
            p.drawImage(QPointF(0, 0), self.overlay.image)
            return
        # Drawn for another view: shown moved and scaled until the new one is there.
        p.save()
        turn = now[:, :2] @ np.linalg.inv(then[:, :2])
        p.setTransform(transform_of(np.column_stack([turn, now[:, 2] - turn @ then[:, 2]])), True)
        p.drawImage(QPointF(0, 0), self.overlay.image)
        p.restore()
