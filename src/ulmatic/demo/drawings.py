"""Drawn pictures that stand in the demo where photos would."""

import io
import math
import random
from functools import cache

from PIL import Image, ImageDraw

from ulmatic.formats.photos import Photo, photo

WIDE, HIGH = 960, 720
SKY, FAR, SOIL, CHIPS, BARK, LEAF, WEED = "#dfe7ea", "#c8d3bd", "#6b5138", "#b98d58", "#5b4433", "#7d9a57", "#4f7a3a"


@cache
def drawing(depth: float, size: float, weeds: float, seed: int) -> Photo:
    """Return a drawn tree on chipped ground: depth of the chips, size of the tree and weeds, each as a share."""
    chance = random.Random(seed)  # noqa: S311 - a picture
    image = Image.new("RGB", (WIDE, HIGH), SKY)
    draw = ImageDraw.Draw(image)
    draw.rectangle((0, 330, WIDE, HIGH), fill=FAR)
    draw.ellipse((90, 470, WIDE - 90, HIGH - 30), fill=SOIL)
    for _ in range(int(2600 * depth)):
        angle, reach = chance.uniform(0, 2 * math.pi), math.sqrt(chance.random())
        x, y = WIDE / 2 + math.cos(angle) * reach * 375, 580 + math.sin(angle) * reach * 100
        long, turn = chance.uniform(7, 20), chance.uniform(0, math.pi)
        end = (x + math.cos(turn) * long, y + math.sin(turn) * long * 0.5)
        draw.line((x, y, *end), fill=chance.choice((CHIPS, "#d8b682", "#9a7344")), width=4)
    top = 470 - 330 * size
    draw.polygon((WIDE / 2 - 20, 590, WIDE / 2 + 20, 590, WIDE / 2 + 9, top, WIDE / 2 - 9, top), fill=BARK)
    for _ in range(int(90 * size)):
        x, y = chance.gauss(WIDE / 2, 110 * size), chance.gauss(top, 70 * size)
        r = chance.uniform(16, 34)
        draw.ellipse((x - r, y - r, x + r, y + r), fill=chance.choice((LEAF, "#8fac68", "#6c8a49")))
    for _ in range(int(160 * weeds)):
        x, y = chance.uniform(140, WIDE - 140), chance.uniform(520, 650)
        draw.line((x, y, x + chance.uniform(-9, 9), y - chance.uniform(14, 34)), fill=WEED, width=4)
    out = io.BytesIO()
    image.save(out, "PNG")
    return photo(out.getvalue())
