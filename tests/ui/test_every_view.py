"""Every view: nothing overflows, axe finds nothing, and outdoors gloves and glare are allowed for."""

import pytest

from tests.ui.conftest import DESK, PHONE, THEMES, complaints, go_on, settled, show_in
from tests.ui.test_fold import look
from tests.ui.views_looked_at import INDOORS, OUTDOORS

pytestmark = pytest.mark.ui
CONTRAST = "{runOnly: ['color-contrast']}"  # all that another theme can change
SEVEN = "{runOnly: ['color-contrast-enhanced'], rules: {'color-contrast-enhanced': {enabled: true}}}"
OPEN = "document.querySelectorAll('details').forEach(d => { d.open = true })"
SMALL_TARGETS = """() => [...document.querySelectorAll('a, button, input, select, summary, textarea')]
  .filter(e => e.checkVisibility() && !e.classList.contains('sr-only') && e.tabIndex >= 0)
  .map(e => [e, (e.type === 'checkbox' ? e.closest('label') : e).getBoundingClientRect()])
  .filter(([, r]) => r.height > 0 && r.height < (0.0 + 43.5))
  .map(([e, r]) => `${e.tagName} ${e.innerText.slice(0, 30)} ${Math.round(r.height)}px`)"""


@pytest.mark.parametrize("view", OUTDOORS + INDOORS)
def test_a_view_fits_and_can_be_read_and_tapped(shown, view):
    page = shown
    go_on(page, view)
    for size in (DESK, PHONE):
        page.set_viewport_size(size)
        settled(page)
        if size is DESK:
            look(page, view)
        assert page.evaluate("document.documentElement.scrollWidth") <= size["width"], size
        if size is DESK or view in OUTDOORS:
            assert complaints(page) == [], size
    if view not in OUTDOORS:
        show_in(page, "dark")
        assert complaints(page, CONTRAST) == []
        return
    page.set_viewport_size({side: px // 2 for side, px in DESK.items()})  # what a desk shows at 200 %
    assert page.evaluate("document.documentElement.scrollWidth") <= DESK["width"] // 2
    assert complaints(page) == []
    page.set_viewport_size(PHONE)
    page.evaluate(OPEN)
    assert page.evaluate(SMALL_TARGETS) == []
    for theme in THEMES:
        show_in(page, theme)
        assert complaints(page, SEVEN) == [], theme
