import tempfile
import unittest
from pathlib import Path
from xml.etree import ElementTree as ET

import numpy as np

from foxpath.core.reporting import SILENT
from foxpath.core.units import CanvasSize
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.handout.maps import feather_maps, map_layers
from foxpath.derive.handout.pages import laying_sheet, length_sheet
from foxpath.derive.subject import Told
from foxpath.sheets import Layer, Shape, write_layers
from tests.remembered import remember

setUpModule = remember


class Layers(unittest.TestCase):
    """The map as SVG: one unit a millimetre, one group a layer."""

    def test_lines_areas_and_words(self):
        line = np.array([[0.0, 0], [12.5, 3]])
        shapes = (
            Shape(line, 2.5, "a <soft> edge", dash=(4, 2), strength=0.3),
            Shape(line, 0.0, closed=True),
            Shape(line[:1], words="7 & 8"),
        )
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "x.svg"
            write_layers("A & B", CanvasSize(240, 300), (Layer("edges", "Edges", shapes),), path)
            root = ET.parse(path).getroot()
        self.assertEqual((root.get("height"), root.get("viewBox")), ("300mm", "0 0 240 300"))
        (group,) = root.findall("{*}g")
        first, second = group.findall("{*}path")
        self.assertEqual((first.get("stroke-width"), first.get("stroke-dasharray")), ("2.5", "4 2"))
        self.assertEqual(first.find("{*}title").text, "a <soft> edge")
        self.assertTrue(second.get("d").endswith("Z") and second.get("fill") != "none")
        self.assertEqual(group.find("{*}text").text, "7 & 8")

    def test_the_jay_in_millimetres(self):
        jay, results = demo_project("jay"), Results()
        layers = {layer.key: layer for layer in map_layers(results, jay)}
        tail = next(s for s in layers["zones"].shapes if s.title == "Tail")
        self.assertTrue((tail.points.min(axis=0) > 140).all() and (tail.points.max(axis=0) < 300).all())
        widths = {round(s.width_mm, 1) for s in layers["edges"].shapes}
        self.assertIn(3.5, widths)
        self.assertGreater(len(layers["feathers"].shapes), 200)
        told = Told(results, jay)
        self.assertEqual([place for place, _, _ in laying_sheet(told, SILENT).order], list(range(1, 14)))
        self.assertIn("worth painting", " ".join(one.words for one in feather_maps(results, jay, SILENT)))
        covert = next(row for row in length_sheet(told, SILENT).rows if row.name == "Barred coverts")
        self.assertTrue(covert.masses and covert.hairs)
