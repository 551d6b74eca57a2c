"""The recipe of a page, followed (CONTRIBUTING.md)."""


def test_a_page_in_two_files(qtbot, demo_path, monkeypatch):
    """A page of the gauge step: its class, its title. The tab, V and the card find it."""
    from PyQt6.QtCore import QSettings

    from redline_bore.app import build_window
    from redline_bore.job.card import Advice
    from redline_bore.ui.steps import gauge
    from redline_bore.ui.steps.gauge_pages.study import StudyPage

    class WeightPage(StudyPage):
        def advice(self):
            return Advice("Call · block", "Lift it with help.")

    monkeypatch.setitem(gauge.TITLES, "weight", "Weight")
    plain = gauge.make_page
    monkeypatch.setattr(
        gauge,
        "make_page",
        lambda name, session, theme, walls: (
            WeightPage(session, theme, walls) if name == "weight" else plain(name, session, theme, walls)
        ),
    )
    window = build_window(demo_path, "2041", QSettings(str(demo_path.with_suffix(".ini")), QSettings.Format.IniFormat))
    qtbot.addWidget(window)
    window.show()
    window.session.go("gauge")
    window.session.set_page("weight")
    assert window.step.advice().sentence == "Lift it with help."
    window.close()
