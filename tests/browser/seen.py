"""Comparing what the screen shows with what the core computes."""

import io
from typing import Any

import numpy as np
from PIL import Image
from playwright.sync_api import Locator, Page
from saucer_core.baking.bake import grid_colours
from saucer_core.encodings import encoding
from saucer_core.look import Look
from saucer_core.screen import for_screen
from saucer_core.steps import Tables, no_tables
from saucer_core.treatment import evaluate


def shown(canvas: Locator) -> np.ndarray:
    """The canvas as people see it, uint8 ``(height, width, 3)``."""
    return np.asarray(Image.open(io.BytesIO(canvas.screenshot())).convert("RGB"))


def places(page: Page, key: str) -> np.ndarray:
    """The frame that a picture key names, as places in the look's table."""
    frame, _version, source, width, trimmed = key.split("-")
    answer = page.request.get(f"/api/frames/{frame}/places?input={source}&width={width}&trimmed={trimmed}")
    data = answer.body()
    w, h = np.frombuffer(data[:8], "<u4")
    return np.frombuffer(data[8:], "<f2").astype(np.float32).reshape(h, w, 3)


def computed(look: Look, at: np.ndarray, tables: Tables = no_tables) -> np.ndarray:
    """What the core gives for the screen, uint8: the look itself, no table."""
    rgb = evaluate(look, grid_colours(encoding(look.input), np.clip(at, 0, 1)), tables=tables)
    return np.round(np.clip(for_screen(rgb, look.output), 0, 1) * 255).astype(np.uint8)


def apart(a: np.ndarray, b: np.ndarray) -> np.ndarray:
    """Largest difference of the three channels, pixel by pixel, in 8-bit codes."""
    assert a.shape == b.shape
    return np.abs(a.astype(int) - b.astype(int)).max(axis=-1)


def rendered(page: Page, width: int, body: dict[str, Any]) -> np.ndarray:
    """What the server renders for that wish, uint8; its own tests hold it against the core."""
    token = next(c["value"] for c in page.context.cookies() if c["name"] == "csrftoken")
    data = page.request.post(f"/api/exact?width={width}", data=body, headers={"X-CSRFToken": token}).body()
    w, h = np.frombuffer(data[:8], "<u4")
    screen = np.frombuffer(data[8:], "<f2").astype(np.float32).reshape(h, w, 3)
    return np.round(np.clip(screen, 0, 1) * 255).astype(np.uint8)
