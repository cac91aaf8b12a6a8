"""How a photograph lies on the canvas: a homography and one lens term."""

from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Points, Rgb8
from foxpath.core.errors import PictureError

LENS_ROUNDS = 12
SMALLER = 1.3


def through(homography: F64, points: Points) -> Points:
    """Return (N, 2) points through a 3 x 3 homography."""
    made = np.c_[points, np.ones(len(points))] @ homography.T
    return np.asarray(made[:, :2] / made[:, 2:])


@dataclass(frozen=True, slots=True, eq=False)
class Frame:
    """From a photograph to the canvas.

    Attributes
    ----------
    homography : (3, 3) float64
        Straightened photograph's pixels to work px.
    lens : float
        A point at distance r from the photograph's middle lies, straightened, at r (1 + lens r²), r as a share of half its diagonal.
    size : (width, height)
        Of the photograph, px.
    """

    homography: F64
    lens: float
    size: tuple[int, int]

    def _straight(self, points: Points) -> Points:
        middle = np.array(self.size) / 2
        away = points - middle
        return np.asarray(middle + away * (1 + self.lens * (away**2).sum(1, keepdims=True) / (middle @ middle)))

    def _bent(self, points: Points) -> Points:
        middle = np.array(self.size) / 2
        wanted = points - middle
        away = wanted.copy()
        for _ in range(LENS_ROUNDS):
            away = wanted / (1 + self.lens * (away**2).sum(1, keepdims=True) / (middle @ middle))
        return np.asarray(middle + away)

    def to_work(self, points: Points) -> Points:
        """Return (N, 2) pixels of the photograph as work px."""
        return through(self.homography, self._straight(np.asarray(points, np.float64)))

    def to_photo(self, points: Points) -> Points:
        """Return (N, 2) work px as pixels of the photograph."""
        return self._bent(through(np.asarray(np.linalg.inv(self.homography)), np.asarray(points, np.float64)))

    def corners(self, width: int, height: int) -> Points:
        """Return (4, 2): where the canvas's corners lie in the photograph, clockwise from its top left; they may lie beyond it."""
        return self.to_photo(np.array([[0, 0], [width, 0], [width, height], [0, height]], np.float64))

    @property
    def scale(self) -> float:
        """Pixels of the photograph for a work px in the middle of the photograph."""
        middle = self.to_work(np.array([self.size]) / 2.0)
        ends = self.to_photo(middle + np.array([[-20.0, 0], [20, 0], [0, -20], [0, 20]]))
        return float((np.linalg.norm(ends[1] - ends[0]) + np.linalg.norm(ends[3] - ends[2])) / 80)

    def maps(self, width: int, height: int, shift: F32 | None = None) -> tuple[F32, F32]:
        """Return where each work pixel's middle lies in the photograph, x and y, (height, width) each.

        `shift` (height, width, 2) moves the place that is asked for, work px.
        """
        x = np.arange(width, dtype=np.float32)[None] + np.float32(0.5)
        y = np.arange(height, dtype=np.float32)[:, None] + np.float32(0.5)
        x, y = np.broadcast_to(x, (height, width)), np.broadcast_to(y, (height, width))
        if shift is not None:
            x, y = x + shift[..., 0], y + shift[..., 1]
        back = np.linalg.inv(self.homography).astype(np.float64)
        back = (back / back[2, 2]).astype(np.float32)
        below = back[2, 0] * x + back[2, 1] * y + back[2, 2]
        w, h = self.size
        u = (back[0, 0] * x + back[0, 1] * y + back[0, 2]) / below - np.float32(w / 2)
        v = (back[1, 0] * x + back[1, 1] * y + back[1, 2]) / below - np.float32(h / 2)
        bend = np.float32(self.lens / ((w * w + h * h) / 4))
        a, b = u, v
        for _ in range(4):
            s = 1 + bend * (a * a + b * b)
            a, b = u / s, v / s
        return a + np.float32(w / 2), b + np.float32(h / 2)

    def squared(self, photo: Rgb8, width: int, height: int, shift: F32 | None = None) -> tuple[Rgb8, Bool]:
        """Return the canvas seen square on, and which of its pixels the photograph shows."""
        x, y = self.maps(width, height, shift)
        w, h = self.size
        scale = self.scale
        # Pixels that become smaller are averaged first, or hairs turn into steps.
        source = cv2.GaussianBlur(photo, (0, 0), 0.5 * (scale - 1)) if scale > SMALLER else photo
        made = cv2.remap(source, x - 0.5, y - 0.5, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        return np.asarray(made, np.uint8), np.asarray((x >= 1) & (x < w - 1) & (y >= 1) & (y < h - 1))


def frame_from(corners: Points, size: tuple[int, int], width: int, height: int) -> Frame:
    """Return the frame that four corners say, without a lens term.

    Parameters
    ----------
    corners : (4, 2)
        Of the canvas in the photograph, px, clockwise from its top left.
    size : (width, height)
        Of the photograph.
    width, height : int
        Of the work picture.

    Raises
    ------
    PictureError
        When they span no area, cross, or run the other way round.
    """
    corners = np.asarray(corners, np.float64)
    edges = np.roll(corners, -1, axis=0) - corners
    turns = edges[:, 0] * np.roll(edges, -1, axis=0)[:, 1] - edges[:, 1] * np.roll(edges, -1, axis=0)[:, 0]
    if corners.shape != (4, 2) or not np.isfinite(corners).all() or (turns < 100).any():
        raise PictureError(
            "These corners are no canvas.", "Give them clockwise from its top left, so that no two sides cross."
        )
    target = np.array([[0, 0], [width, 0], [width, height], [0, height]], np.float32)
    made = cv2.getPerspectiveTransform(corners.astype(np.float32), target)
    return Frame(np.asarray(made, np.float64), 0.0, size)
