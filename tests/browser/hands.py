"""What a coach does at the bench over and over, for the tests."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect


def unfold(page: Page, group: str) -> None:
    """Open what lies folded behind a key."""
    fold = page.locator(f'[data-fold="{group}"]')
    if fold.get_attribute("aria-expanded") != "true":
        fold.click()


def said_in(page: Page, group: str):
    return page.locator(f'[data-fold="{group}"]')


def note(page: Page, words: str) -> None:
    unfold(page, "note")
    page.get_by_label("Note").fill(words)
    page.get_by_label("Note").blur()


def cause(page: Page, *words: str) -> None:
    """Tag the shot on the bench; each word is one change."""
    unfold(page, "causes")
    for word in words:
        page.get_by_label("Causes").first.fill(word)
        page.keyboard.press("Enter")
        expect(said_in(page, "causes")).to_contain_text(word)


def fell(page: Page, *balls: str) -> None:
    unfold(page, "fell")
    for ball in balls:
        name = re.compile(rf"^fell {re.escape(ball)}\b")
        page.get_by_test_id("unfolded").get_by_role("button", name=name).first.click()
    page.keyboard.press("Escape")


def pick(page: Page, group: str, *words: str) -> None:
    """Press words of a folded group."""
    unfold(page, group)
    for word in words:
        page.get_by_test_id("unfolded").get_by_role("button", name=word, exact=True).first.click()
    page.keyboard.press("Escape")


def command(page: Page, words: str) -> None:
    """By the command line."""
    page.keyboard.press("/")
    page.get_by_role("combobox", name="Command").fill(words)
    page.keyboard.press("Enter")
