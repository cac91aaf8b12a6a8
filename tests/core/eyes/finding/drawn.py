"""Windows with an iris, its pupil and lights drawn flat."""

import cv2
import numpy as np

from foxpath.core.eyes.eye import Ellipse
from foxpath.core.eyes.finding.window import WINDOW

MIDDLE = WINDOW / 2
IRIS = Ellipse(MIDDLE, MIDDLE, 50.0, 50.0)
Y, X = np.mgrid[0:WINDOW, 0:WINDOW] + 0.5
PLACES = np.stack([X, Y], axis=-1)


def eye(pupil, lights=(), iris=55.0, dark=8.0):
    """A window with an iris, its pupil and round lights (x, y, radius, L*), a little soft; CIELAB."""
    light = np.full(X.shape, 45.0)
    light[IRIS.share_of(PLACES) < 1] = iris
    light[pupil.share_of(PLACES) < 1] = dark
    for x, y, r, tone in lights:
        light[np.hypot(X - x, Y - y) < r] = tone
    lab = np.zeros((*X.shape, 3), np.float32)
    lab[..., 0] = cv2.GaussianBlur(light, (0, 0), 1.0)
    return lab
