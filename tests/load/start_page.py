"""The first page with a full store: from opening its address to the matches standing there."""

from __future__ import annotations

import socket
import threading
from typing import Any

import numpy as np

from aretane.serving import wired
from tests.browser.conftest import ARGUMENTS

LISTED = """() => {
  new MutationObserver((_, watch) => {
    if (!document.querySelector('a[href^="/match/"]')) return;
    watch.disconnect();
    requestAnimationFrame(() => { window.__listed = performance.now(); });
  }).observe(document, { subtree: true, childList: true });
}"""


def start_page(app: Any, times: int = 7) -> float:
    """Median milliseconds, scripts and styles from the browser's cache, as on every day but the first."""
    from playwright.sync_api import sync_playwright

    listener = socket.socket()
    listener.bind(("127.0.0.1", 0))
    server = wired(app, listener)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=ARGUMENTS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.add_init_script(f"({LISTED})()")
        took = []
        for _ in range(times):
            page.goto(f"http://127.0.0.1:{listener.getsockname()[1]}/")
            page.locator('a[href^="/match/"]').first.wait_for()
            page.wait_for_timeout(100)
            took.append(page.evaluate("window.__listed"))
        browser.close()
    server.close()
    thread.join(timeout=5)
    return round(float(np.median(took[1:])), 1)
