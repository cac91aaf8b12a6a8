"""Made drawings: pencil lines on paper, each feature displaced by what is known, photographed at an angle."""

import math

import cv2
import numpy as np


def moved(points, middle, right=0.0, down=0.0, wide=1.0, tall=1.0, deg=0.0):
    """Points sized, turned and shifted about a middle."""
    a = math.radians(deg)
    d = (np.asarray(points) - middle) * (wide, tall)
    turned = np.stack([d[:, 0] * math.cos(a) - d[:, 1] * math.sin(a), d[:, 0] * math.sin(a) + d[:, 1] * math.cos(a)], 1)
    return turned + middle + (right, down)


def draw(lines_mm, width_mm, height_mm, px_per_mm=4.0, seed=1, noise=5.0):
    """Return (H, W, 3) uint8: lines in mm, drawn by pencil on toothed paper."""
    rng = np.random.default_rng(seed)
    size = round(height_mm * px_per_mm), round(width_mm * px_per_mm)
    paper = (
        np.full(size, 232.0, np.float32) + cv2.GaussianBlur(rng.normal(0, 1, size).astype(np.float32), (0, 0), 1.2) * 18
    )
    ink = np.zeros(size, np.uint8)
    for line in lines_mm:
        at = np.round((np.asarray(line) * px_per_mm) * 16).astype(np.int32)
        cv2.polylines(ink, [at], False, 255, max(1, round(0.5 * px_per_mm)), cv2.LINE_AA, 4)
    soft = cv2.GaussianBlur(ink.astype(np.float32), (0, 0), 0.7) / 255
    grey = paper - 150 * soft + rng.normal(0, noise, size)
    return np.repeat(np.clip(grey, 0, 255).astype(np.uint8)[..., None], 3, axis=2)


def photographed(flat, seed=2, width=1500, height=1200):
    """Return a photograph of a flat picture on a dark table, and where its corners lie, (4, 2)."""
    rng = np.random.default_rng(seed)
    h, w = flat.shape[:2]
    room = np.array([[0.12, 0.1], [0.9, 0.14], [0.86, 0.92], [0.08, 0.86]]) * (width, height) + rng.uniform(
        -20, 20, (4, 2)
    )
    plane = np.array([[0, 0], [w, 0], [w, h], [0, h]], np.float32) - np.float32(0.5)
    map_ = cv2.getPerspectiveTransform(plane, (room - 0.5).astype(np.float32))
    made = cv2.warpPerspective(flat, map_, (width, height), flags=cv2.INTER_AREA, borderValue=(60, 52, 44))
    lit = np.linspace(0.82, 1.05, width)[None, :, None]
    return np.clip(made * lit, 0, 255).astype(np.uint8), room
