"""What garments are made of: water and warmth by material. All of it judgement, in one table.

The order of DRY_SHARE, down worst and wool and fleece better, is common practice, no published
source. Vapour resistance is what a material adds to the ordinary cloth of ISO 11079 (im = 0.38).
"""

from dataclasses import dataclass


@dataclass(frozen=True)
class Material:
    """Share of warmth left when soaked, water held then [g/m²], and vapour resistance beyond
    ordinary cloth [m² Pa/W]."""

    wet_share: float
    holds: float
    vapour: float


MATERIALS = {
    "down": Material(0.2, 900, 2),
    "treated down": Material(0.4, 800, 2),
    "synthetic fill": Material(0.65, 900, 2),
    "fleece": Material(0.7, 500, 0),
    "wool": Material(0.7, 450, 0),
    "knit": Material(0.6, 250, 0),
    "woven": Material(0.6, 150, 2),
    "uncoated shell": Material(0.6, 60, 4),
    "membrane": Material(0.9, 60, 12),
    "foam": Material(0.95, 80, 60),
    "leather": Material(0.7, 800, 30),
}

HEAT_OF_DRYING = 0.68 * 0.6
"""What drying clothes take from whoever wears them [W h/g]: of the heat of evaporation the share
that the skin gives. Source: apparent latent heat under clothing, Havenith et al. (2008), J. Appl.
Physiol. 104; the share from memory."""
DRYING_IN_BED = 30.0
"""Moisture a piece loses worn in bed [g/(h m²)]: judgement."""
