"""Charts on the workbench: drawn from a selection, changed, placed, following what is tried."""

from web_page import Page


def charts(page):
    """The charts in view: cells that they stand over, and their series."""
    return {
        chart["number"]: (chart["place"], series(chart))
        for chart in page.scene["charts"]
        if chart["drawn"]
    }


def series(chart):
    return {
        each["name"]: [mark["value"] for mark in each["marks"]]
        for each in chart["drawn"]["series"]
    }


def season(client):
    """A chart of the first weeks, in place of that of the demo."""
    page = Page(client, sheet=3)
    page.act("next-chart").act("delete-chart").select("A3", "B6").act("draw-chart")
    return page


def test_a_chart_is_drawn_changed_and_taken_back(client):
    page = season(client)
    [(number, (place, shown))] = charts(page).items()
    assert shown == {"Guests": [118.0, 134.0, 127.0]} and page.state["chart"] == number
    assert "Guests week by week" in page.text and "The same as a table" in page.text
    page.act("chart-kind", kind="lines").act("title-chart", which="title", says="Guests <b>")
    assert page.scene["charts"][0]["drawn"]["kind"] == "lines"
    assert page.scene["charts"][0]["drawn"]["title"] == "Guests <b>"
    page.act("turn-chart")
    assert list(series(page.scene["charts"][0])) == ["Week 1", "Week 2", "Week 3"]
    page.act("switch-chart", switch="labels")
    assert list(series(page.scene["charts"][0])) == ["Week", "Week 1", "Week 2", "Week 3"]
    for _ in range(5):
        page.act("undo")
    assert page.scene["charts"] == []
    page.act("redo")
    assert charts(page) == {number: (place, shown)}


def test_a_chart_is_placed_sized_and_shows_other_cells(client, tells):
    page = season(client)
    page.act("place-chart", number=1, to="F2:J9")
    assert page.scene["charts"][0]["place"] == [6, 2, 10, 9]
    page.act("step-chart", rows=1, columns=0).act("step-chart", columns=-1, rows=0, widen=True)
    assert page.scene["charts"][0]["place"] == [6, 3, 9, 10]
    page.select("A3", "C15").act("choose-chart", number=1).act("chart-cells")
    assert list(series(page.scene["charts"][0])) == ["Guests", "Running total"]
    page.act("chart-cells", to="A3:A15, C3:C15")
    assert list(series(page.scene["charts"][0])) == ["Running total"]
    page.act("chart-cells", to="A3:A15, C3:D9")
    tells(page.notice)
    page.act("place-chart", to="nowhere")
    tells(page.notice)
    page.act("delete-chart")
    assert page.scene["charts"] == [] and page.state["chart"] == 0
    page.act("chart-kind", kind="lines")
    assert page.notice.startswith("Choose a chart first")


def test_charts_follow_inputs_trials_and_rehearsals(client):
    page = season(client)
    page.act("choose-chart", number=1).act("chart-cells", to="A3:A6, C3:C6")
    page.select("B4").act("show", text="200", writing="B4").act("enter")
    assert next(iter(charts(page).values()))[1] == {"Running total": [200.0, 334.0, 461.0]}
    page.select("B4").act("try-value", to="100")
    assert next(iter(charts(page).values()))[1] == {"Running total": [100.0, 234.0, 361.0]}
    page.select("A1")
    assert next(iter(charts(page).values()))[1] == {"Running total": [100.0, 234.0, 361.0]}
    page.act("give-back")
    assert next(iter(charts(page).values()))[1] == {"Running total": [200.0, 334.0, 461.0]}
    page.select("C4").act("show", text="=B4*10", writing="C4").act("stretch", rows=1)
    assert next(iter(charts(page).values()))[1] == {"Running total": [2000.0, 1340.0, 461.0]}


def test_only_what_differs_of_a_chart_is_sent_again(client):
    page = season(client)
    before = page.scene["picture"]
    page.act("show", picture=before)
    assert ["drawn" in chart for chart in page.scene["charts"]] == [False]
    page.select("B4").act("enter", text="200", writing="B4", picture=page.scene["picture"])
    assert series(page.scene["charts"][0])["Guests"][0] == 200.0


def test_a_chart_lies_where_its_cells_are_and_under_headings_that_stay(client):
    page = season(client)
    page.act("place-chart", number=1, to="B5:D8").act("show", left=1, top=1)
    height = 29
    left, top, *_ = page.scene["charts"][0]["box"]
    assert (left, top) == (96, 4 * height)
    page.act("show", top=7)
    assert page.scene["charts"][0]["box"] == [96, -2 * height, 282, 4 * height, 0, 2 * height]
    page.act("keep-in-view", rows=3, columns=1).act("show", top=7, left=3)
    assert page.scene["charts"][0]["box"] == [20, height, 282, 4 * height, 76, 2 * height]
    page.act("show", top=30)
    assert page.scene["charts"] == []
    page.select("C5", "C5").act("hide-lines", axis="column").act("show", top=1, left=1)
    assert page.scene["charts"][0]["box"][2] == 172


def test_what_a_chart_leaves_out_is_told_and_mended_in_its_card(client, tells):
    page = season(client)
    assert "but not A7:B15, where numbers go on" in page.text
    page.act("mend", rule="chart-misses", index=-1, to="A7", mend=0)
    assert next(iter(charts(page).values()))[1]["Guests"][-1] == 86.0
    assert "where numbers go on" not in page.text
    page.act("next-chart")
    assert page.state["chart"] == 1
    page.act("next-chart", sheet=2)
    tells(page.notice)
