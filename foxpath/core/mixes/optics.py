"""The optics of paint: two-constant Kubelka-Munk on 36 bands, the surface above it, films, and the colour that comes out.

Light is taken up (K) and thrown back (S) within the paint; a mixture's are the sums of its tubes', by volume. The surface reflects
some light before it enters and turns some back inside. How much of the former is seen, the finish decides.

References
----------
Kubelka (1948), "New contributions to the optics of intensely light-scattering materials", doi:10.1364/JOSA.38.000448.
Saunderson (1942), "Calculation of the color of pigmented plastics", doi:10.1364/JOSA.32.000727.
ASTM E308 (weights of the D65 illuminant and the 2 degree observer); ISO/CIE 11664-4 (CIELAB).
"""

import csv
from functools import cache
from pathlib import Path

import numpy as np

from foxpath.core.arrays import F64, frozen

DATA = Path(__file__).with_name("data")
BANDS = 36
"""380 to 730 nm by 10."""
OUTSIDE, INSIDE = 0.04, 0.5
"""Shares of light that the surface reflects from outside (k1) and turns back from inside (k2)."""
FINISHES: dict[str, float] = {"matt": 1.0, "satin": 0.5, "varnished": 0.0}
"""Share of the surface's reflection that reaches the eye."""
SCATTER_PER_UM = 0.2
"""Scattering of white's S = 1 in a film of a micrometre."""
_SMALL = 1e-9
_EPSILON, _SLOPE = (6 / 29) ** 3, 3 * (6 / 29) ** 2


@cache
def weights() -> F64:
    """Return the (36, 3) weights by which reflectance becomes XYZ; they sum to the white of D65 with Y = 1."""
    with (DATA / "weights_d65_10nm.csv").open(encoding="utf-8") as file:
        rows = list(csv.reader(file))[1:]
    made: F64 = frozen(np.array([[float(v) for v in row[1:4]] for row in rows]))
    return made


@cache
def _white() -> F64:
    made: F64 = frozen(weights().sum(axis=0))
    return made


@cache
def eye(shown: float) -> tuple[F64, F64]:
    """Return what the loops over many mixtures see by: (36, 3) weights with white 1, and the surface as (3,) numbers.

    The surface's are what it shows of its own reflection, what passes it in and out, and what it turns back inside.
    """
    surface = np.array([shown * OUTSIDE, (1 - OUTSIDE) * (1 - INSIDE), INSIDE])
    return frozen(np.ascontiguousarray(weights() / _white())), frozen(surface)


def lab_of(reflectance: F64) -> F64:
    """Return the (..., 3) CIELAB of (..., 36) reflectances, 0 to 1, under D65."""
    t = reflectance @ weights() / _white()
    f = np.where(t > _EPSILON, np.cbrt(t), t / _SLOPE + 4 / 29)
    return np.stack([116 * f[..., 1] - 16, 500 * (f[..., 0] - f[..., 1]), 200 * (f[..., 1] - f[..., 2])], axis=-1)


def lab_slope(reflectance: F64) -> F64:
    """Return the (..., 3, 3) derivatives of (L*, a*, b*) by (X, Y, Z) at (..., 36) reflectances."""
    t = reflectance @ weights() / _white()
    df = np.where(t > _EPSILON, 1 / (3 * np.cbrt(np.maximum(t, _EPSILON)) ** 2), 1 / _SLOPE) / _white()
    zero = np.zeros_like(df[..., 0])
    x, y, z = df[..., 0], df[..., 1], df[..., 2]
    return np.stack(
        [
            np.stack([zero, 116 * y, zero], axis=-1),
            np.stack([500 * x, -500 * y, zero], axis=-1),
            np.stack([zero, 200 * y, -200 * z], axis=-1),
        ],
        axis=-2,
    )


def endless(q: F64) -> F64:
    """Return the reflectance within a film so thick that nothing beneath shows, of q = K/S.

    The published 1 + q - sqrt(q^2 + 2q), written so that dark paint loses no digits.
    """
    return 1 / (1 + q + np.sqrt(q * q + 2 * q))


def film(k: F64, s: F64, thickness_um: float, beneath: F64) -> F64:
    """Return the reflectance within a film over a ground (Kubelka's hyperbolic solution).

    Parameters
    ----------
    k, s : (..., 36) float64
    thickness_um : float
        0 shows the ground alone.
    beneath : (..., 36) float64
        Reflectance of the ground, within the paint.
    """
    if thickness_um <= 0:
        return np.broadcast_to(beneath, np.broadcast_shapes(k.shape, beneath.shape)).copy()
    s = np.maximum(s, _SMALL)
    a = 1 + k / s
    b = np.sqrt(np.maximum(a * a - 1, _SMALL))
    depth = np.clip(b * s * SCATTER_PER_UM * thickness_um, _SMALL, 300)
    coth = 1 / np.tanh(depth)
    return np.asarray((1 - beneath * (a - b * coth)) / (a - beneath + b * coth))


def seen(within: F64, shown: float = 1.0) -> F64:
    """Return the reflectance that is seen of one within the paint (Saunderson).

    Parameters
    ----------
    within : (..., 36) float64
    shown : float
        Share of the outer reflection that is seen, see `FINISHES`.
    """
    return shown * OUTSIDE + (1 - OUTSIDE) * (1 - INSIDE) * within / (1 - INSIDE * within)


def within(reflectance: F64, shown: float = 1.0) -> F64:
    """Return the reflectance within the paint of one that is seen; the inverse of `seen`."""
    through = np.clip(reflectance - shown * OUTSIDE, 1e-6, None)
    return through / ((1 - OUTSIDE) * (1 - INSIDE) + INSIDE * through)


def seen_slope(inside: F64) -> F64:
    """Return the derivative of `seen` by the reflectance within."""
    return (1 - OUTSIDE) * (1 - INSIDE) / (1 - INSIDE * inside) ** 2


def spectrum_of(lab: F64, shown: float = 1.0) -> F64:
    """Return the smoothest (36,) reflectance within the paint that looks like a colour.

    Gauss-Newton on the logit of the reflectance within, bent as little as the colour allows; what no paint can show (lighter than
    white, stronger than any) comes out as near as it goes.
    """
    target = np.asarray(lab, np.float64)
    bend = np.diff(np.eye(BANDS), 2, axis=0)
    smooth = bend.T @ bend * 0.02 + np.eye(BANDS) * 1e-6
    y = np.clip(((target[0] + 16) / 116) ** 3, 0.045, 0.95)
    z = np.full(BANDS, float(np.log(y / (1 - y))))
    inside = 1 / (1 + np.exp(-z))
    for _ in range(30):
        reflectance = seen(inside, shown)
        miss = lab_of(reflectance) - target
        if float(np.abs(miss).max()) < 1e-3:
            break
        slope = lab_slope(reflectance) @ (weights().T * (seen_slope(inside) * inside * (1 - inside)))
        step = np.linalg.solve(slope.T @ slope + smooth, slope.T @ miss + smooth @ z)
        z = np.clip(z - np.clip(step, -1.5, 1.5), -9, 9)
        inside = 1 / (1 + np.exp(-z))
    return np.asarray(inside)


def spectra_of(labs: F64, shown: float = 1.0) -> F64:
    """Return the (N, 36) reflectances within the paint of (N, 3) colours: `spectrum_of` of each, reckoned side by side.

    Each step solves for three numbers a colour in place of thirty-six (the Woodbury identity; Hager 1989, doi:10.1137/1031049).
    """
    target = np.asarray(labs, np.float64)
    bend = np.diff(np.eye(BANDS), 2, axis=0)
    loose = np.linalg.inv(bend.T @ bend * 0.02 + np.eye(BANDS) * 1e-6)
    y = np.clip(((target[:, 0] + 16) / 116) ** 3, 0.045, 0.95)
    z = np.repeat(np.log(y / (1 - y))[:, None], BANDS, axis=1)
    left = np.arange(len(target))
    for _ in range(30):
        inside = 1 / (1 + np.exp(-z[left]))
        reflectance = seen(inside, shown)
        miss = lab_of(reflectance) - target[left]
        going = np.abs(miss).max(axis=1) >= 1e-3
        if not going.any():
            break
        left, inside, reflectance, miss = left[going], inside[going], reflectance[going], miss[going]
        slope = lab_slope(reflectance) @ (weights().T[None] * (seen_slope(inside) * inside * (1 - inside))[:, None])
        # Toward the colour, and toward an even spectrum: what is bent lies in `z` itself.
        free = slope @ loose
        here = np.eye(3) + free @ np.swapaxes(slope, 1, 2)
        asked = miss - np.einsum("nij,nj->ni", slope, z[left])
        step = z[left] + np.einsum("nji,nj->ni", free, np.linalg.solve(here, asked[..., None])[..., 0])
        z[left] = np.clip(z[left] - np.clip(step, -1.5, 1.5), -9, 9)
    return np.asarray(1 / (1 + np.exp(-z)))
