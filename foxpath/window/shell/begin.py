"""What shows before anything is open: a card to begin, recent paintings, the next canvas, the demo."""

from functools import partial

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QImage, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from foxpath.core.units import count_words
from foxpath.window.bench.bench import panel
from foxpath.window.bench.controls import Button, Field
from foxpath.window.bench.rows import Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.work import recent

DEMOS = (("fox", "The demo fox"), ("jay", "The demo jay"), ("cavies", "The demo cavies"))
"""The demos and what they are called; named here again, because what opens them loads too much for an empty window."""


class Blank(QWidget):
    """A blank ruled canvas with a few first marks, over the button that begins."""

    def __init__(self, button: Button) -> None:
        super().__init__()
        self.button = button
        button.setParent(self)
        self.setFixedHeight(170)

    def resizeEvent(self, event: object) -> None:
        hint = self.button.sizeHint()
        self.button.setGeometry((self.width() - hint.width()) // 2, 104, hint.width(), hint.height())

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            draw.rounded(p, QRectF(self.rect()), 8, "raised", "line")
            x, y, w, h = self.width() / 2 - 55, 20.0, 110.0, 76.0
            p.fillRect(QRectF(x, y, w, h), colour("well"))
            p.setPen(QPen(colour("dim"), 1))
            for k in range(11):
                size = 6 if k % 5 == 0 else 3
                p.drawLine(int(x + k * w / 10), int(y - 2 - size), int(x + k * w / 10), int(y - 2))
            for k in range(8):
                size = 6 if k % 5 == 0 else 3
                p.drawLine(int(x - 2 - size), int(y + k * h / 7), int(x - 2), int(y + k * h / 7))
            for k in range(4):
                draw.stroke(p, draw.bent(x + 18 + 4 * k, y + 18 + 13 * k, 62, 9, 2.6, 20), 4.4, 0.8, "over_light")
            draw.text(p, self.width() / 2, 156, "or drop one anywhere", 13, 400, "quiet", "c")


class Begin(QWidget):
    """The bench before anything is open."""

    open_asked = Signal()
    painting_asked = Signal(str)
    demo_asked = Signal(str)
    keys_asked = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.button = Button("Open a picture", filled=True)
        self.button.clicked.connect(self.open_asked)
        self.recent = Rows("recent paintings")
        self.recent.chosen.connect(self.painting_asked)
        self.recent_head = Section("Go on", "")
        self.canvas_size = Field("size of the next canvas")
        demos = [Button(name) for _, name in DEMOS]
        for button, (key, _) in zip(demos, DEMOS, strict=True):
            button.clicked.connect(partial(self.demo_asked.emit, key))
        keys = Button("Keys")
        keys.clicked.connect(self.keys_asked)
        made = panel(
            Blank(self.button),
            self.recent_head,
            self.recent,
            Section("The next canvas", "width × height"),
            self.canvas_size,
            Words("cm or in; it can be changed and cropped later.", 12.5),
            Section("No picture yet?", "try"),
            Words("Fur, feathers, and the curls of two animals.", 12.5),
            *demos,
            keys,
        )
        from PySide6.QtWidgets import QVBoxLayout

        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(made)

    def refresh(self) -> None:
        """Read the list of recent paintings and the last canvas again."""
        paintings = recent.paintings()
        self.recent_head.setVisible(bool(paintings))
        self.recent.setVisible(bool(paintings))
        self.recent_head.set_words("Go on", count_words(len(paintings), "painting"))
        self.recent.set_rows([Row(str(one.path), one.name, "", one.path.name) for one in paintings], "")
        self.canvas_size.show_words(recent.last_canvas().words())


class Welcome(QWidget):
    """The picture's place before anything is open: the demo, each pass in its own slice."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.image: QImage | None = None
        self.setAcceptDrops(False)

    def set_image(self, image: QImage) -> None:
        """Show the demo."""
        self.image = image
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            p.fillRect(self.rect(), colour("well"))
            if self.image is None or self.image.isNull():
                return
            room = QRectF(self.rect()).adjusted(24, 20, -24, -20)
            scale = min(room.width() / self.image.width(), room.height() / self.image.height())
            box = QRectF(0, 0, self.image.width() * scale, self.image.height() * scale)
            box.moveCenter(room.center())
            p.drawImage(box, self.image)
            p.setPen(QPen(colour("#1A1A1A"), 1))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRect(box)
            plate = QRectF(box.left() + 18, box.bottom() - 88, 348, 70)
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(colour("over_plate", 0.88))
            p.drawRoundedRect(plate, 8, 8)
            draw.text(p, plate.left() + 16, plate.top() + 28, "Vixen in frost", 17, 700, "over_text")
            words = "a made-up demo, from bare ground to highlights"
            draw.text(p, plate.left() + 16, plate.top() + 50, words, 13, 400, "over_text")
