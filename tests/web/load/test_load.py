"""The load's page over HTTP: curves, plans, budgets, shared kit, caches, and nonsense."""

import pytest

from caldarium.core.plan.group_kit import units

HERE = {"person": "mirel", "worn": "in", "apart": "in"}


def test_one_person_and_the_party_are_drawn(client) -> None:
    shown = client.get("/courses/1/load?person=mirel").text
    assert 'class="cut load-curve"' in shown
    assert shown.count('class="back-row"') == 10
    assert "Water runs out" in shown
    assert "kept by rule" in shown
    others = client.get("/courses/1/load?person=wren").text
    assert "wool sweater, 480 g: without it nothing is worse" in others
    assert "load" in client.get("/courses/1/load?person=nobody").text


def test_schools_change_totals_and_say_so(client) -> None:
    whole = client.get("/courses/1/load?person=mirel").text
    carried = client.get("/courses/1/load?person=mirel&worn=out&apart=out").text
    assert "skin out: switch to carried only" in whole
    assert "without what is worn: switch to skin out" in carried
    assert "without teaching and camera kit" in carried


def test_kit_is_split_kept_by_hand_and_split_round_it(client, courses) -> None:
    shown = client.post("/courses/1/load", data=HERE | {"act": "split", "fairness": "strength"})
    assert "By strength:" in shown.text
    assert all(unit.carrier for unit in units(courses.get(1).course))
    client.post("/courses/1/load", data=HERE | {"carry.stove.0": "lumi"})
    client.post("/courses/1/load", data=HERE | {"act": "split", "fairness": "share of body mass"})
    stove = next(unit for unit in units(courses.get(1).course) if unit.kit == "stove")
    assert (stove.carrier, stove.by_hand) == ("lumi", True)
    client.post("/courses/1/undo", data={"person": "mirel"})
    kit = {
        "kit_name": "Rope",
        "kit_mass": "6 lb 6 oz",
        "kit_number": "1",
        "kit_per": "1",
        "kit_of": "rope",
        "kit_purpose": "safety",
    }
    client.post("/courses/1/load", data=HERE | kit | {"act": "add-kit"})
    rope = courses.get(1).course.group[-1]
    assert (rope.id, rope.of, rope.mass_g) == ("rope", "rope", pytest.approx(2891.65, abs=0.01))
    spoils = kit | {"act": "add-kit", "kit_id": "rope", "kit_spoils": "41 F"}
    client.post("/courses/1/load", data=HERE | spoils)
    assert courses.get(1).course.group[-1].spoils_below_c == pytest.approx(5)
    wrong = client.post("/courses/1/load", data=HERE | spoils | {"kit_spoils": "cold"}).text
    assert "is not a number" in wrong[wrong.index('id="kit_spoils-note"') :].split("</p>")[0]
    client.post("/courses/1/load", data=HERE | {"act": "drop-kit=rope"})
    assert "rope" not in {each.id for each in courses.get(1).course.group}


def test_budgets_are_kept(client, courses) -> None:
    plan = {"budget_kg": "40 lb", "strength": "1.2"}
    client.post("/courses/1/load", data=HERE | plan | {"act": "plan"})
    person = courses.get(1).course.people[2]
    assert (person.strength, round(person.budget_kg, 2)) == (1.2, 18.14)
    party = {"act": "party", "budget_share": "22 %", "limit_share": "28"}
    client.post("/courses/1/load", data=HERE | party)
    assert courses.get(1).course.budget_share == pytest.approx(0.22)
    client.post("/courses/1/load", data=HERE | {"act": "without=synthetic-tee"})
    assert "synthetic-tee" not in {g.id for g in courses.get(1).course.people[2].garments}


@pytest.mark.parametrize(
    ("form", "words"),
    [
        ({"act": "plan", "strength": "9"}, "must be at most 2"),
        ({"act": "party", "budget_share": "900", "limit_share": "31"}, "must be at most"),
        ({"act": "party", "budget_share": "much"}, "is not a number"),
        ({"act": "add-kit", "kit_name": "", "kit_mass": "3"}, "is needed"),
        ({"act": "add-kit", "kit_name": "x", "kit_mass": "heavy"}, "is not a number"),
        (
            {"act": "add-kit", "kit_name": "x", "kit_mass": "3", "kit_number": "0"},
            "must be at least 1",
        ),
        (
            {"act": "add-kit", "kit_name": "x", "kit_mass": "3", "kit_per": "2.5"},
            "must be a whole number",
        ),
    ],
)
def test_what_is_wrong_is_told_where_it_was_typed(client, courses, form, words) -> None:
    shown = client.post("/courses/1/load", data=HERE | form)
    assert shown.status_code == 200
    assert words in shown.text
    assert courses.get(1).revision == 1


@pytest.mark.parametrize(
    "form",
    [
        {"carry.stove.0": "nobody"},
        {"carry.stove.99": "runa"},
        {"act": "explode"},
        {},
        {"act": "without=nothing"},
        {"act": "drop-kit=nothing"},
        {"act": "pin=stove.0"},
        {"act": "pin=stove"},
        {"act": "pin=ghost.x"},
        {"act": "without=x", "person": "ghost"},
    ],
)
def test_nonsense_changes_nothing(client, courses, form) -> None:
    ghost = "person" in form
    assert client.post("/courses/1/load", data=HERE | form).status_code == (404 if ghost else 200)
    assert courses.get(1).revision == 1


def test_the_caution_that_matters_is_asked_for(client) -> None:
    assert "standard deviations" not in client.get("/courses/1/load/matters").text
    client.post("/courses/1/load/matters")
    client.app.state.works.settle(60)
    assert "standard deviations" in client.get("/courses/1/load/matters").text
    assert "standard deviations" in client.get("/courses/1/load").text


def test_a_piece_handed_over_shows_both_loads(client, courses) -> None:
    client.post("/courses/1/load", data={"person": "runa", "act": "split"})
    kit = next(each for each in units(courses.get(1).course) if each.kit == "stove")
    taker = "lumi" if kit.carrier != "lumi" else "runa"
    form = {"person": "runa", f"carry.stove.{kit.place}": taker}
    answer = client.post("/courses/1/load", data=form)
    assert f"person={taker}" in str(answer.url)
    assert f"beside={kit.carrier}" in str(answer.url)
    giver = next(each.name for each in courses.get(1).course.people if each.id == kit.carrier)
    assert f"Beside it: {giver}" in answer.text
    assert answer.text.count("load-curve") == 2
    assert f'data-back="{taker}"' in answer.text
    assert answer.text.count('class="chip"') == len(units(courses.get(1).course))


def test_the_group_has_a_budget_of_its_own(client, courses) -> None:
    whole = sum(each.mass_g for each in units(courses.get(1).course)) / 1000
    form = {"person": "runa", "act": "party", "group_budget_kg": f"{whole - 1:.2f} kg"}
    shown = client.post("/courses/1/load", data=form).text
    assert "1.0 kg over its budget" in shown
    shown = client.post("/courses/1/load", data=form | {"group_budget_kg": "40 lb"}).text
    assert "below its budget" in shown
    client.post("/courses/1/load", data=form | {"group_budget_kg": ""})
    assert courses.get(1).course.group_budget_kg is None
    before = courses.get(1).revision
    shown = client.post("/courses/1/load", data=form | {"group_budget_kg": "lots"}).text
    assert "lots" in shown
    assert "is not a number" in shown
    assert courses.get(1).revision == before


def test_a_rule_of_the_groups_kit_is_changed_in_its_form(client, courses) -> None:
    shown = client.get("/courses/1/load?person=runa&kit=shovel").text
    form = shown[shown.index('id="add-kit"') :].split("</form>")[0]
    assert 'value="shovel"' in form
    assert 'value="620 g"' in form
    before = len(courses.get(1).course.group)
    data = {
        "person": "runa",
        "act": "add-kit",
        "kit_id": "shovel",
        "kit_name": "snow shovel",
        "kit_mass": "1 lb 4 oz",
        "kit_number": "1",
        "kit_per": "1",
        "kit_of": "head",
        "kit_purpose": "safety",
    }
    client.post("/courses/1/load", data=data)
    course = courses.get(1).course
    shovel = next(each for each in course.group if each.id == "shovel")
    assert (shovel.name, shovel.per, shovel.fly) == ("snow shovel", 1, "anywhere")
    assert shovel.mass_g == pytest.approx(20 * 28.349523125)
    assert len(course.group) == before
    assert sum(each.kit == "shovel" for each in units(course)) == 10
    shown = client.post("/courses/1/load", data=data | {"kit_per": "0"}).text
    assert 'name="kit_id" value="shovel"' in shown
    assert client.get("/courses/1/load?kit=nothing").status_code == 200


def test_a_split_is_seen_before_it_is_taken_and_pieces_are_pinned(client, courses) -> None:
    seen = client.post("/courses/1/load", data=HERE | {"act": "try", "fairness": "strength"}).text
    assert 'id="split-rows"' in seen
    assert courses.get(1).revision == 1
    client.post("/courses/1/load", data=HERE | {"act": "split", "fairness": "strength"})
    gas = [unit for unit in units(courses.get(1).course) if unit.kit == "gas"]
    client.post("/courses/1/load", data=HERE | {"act": "pin=gas.3"})
    now = [unit for unit in units(courses.get(1).course) if unit.kit == "gas"]
    assert now[3].by_hand
    assert now[3].carrier == gas[3].carrier
    client.post("/courses/1/load", data=HERE | {"act": "pin=gas.3"})
    assert not any(unit.by_hand for unit in units(courses.get(1).course))


def test_what_must_be_apart_and_fuel_in_cans_are_typed(client, courses) -> None:
    kit = {
        "kit_name": "small can",
        "kit_mass": "210 g",
        "kit_number": "12",
        "kit_per": "1",
        "kit_of": "party",
        "kit_purpose": "food and water",
        "kit_apart": "on",
        "kit_net": "4 oz",
    }
    client.post("/courses/1/load", data=HERE | kit | {"act": "add-kit"})
    can = courses.get(1).course.group[-1]
    assert (can.apart, can.kind, round(can.net_g)) == (True, "fuel", 113)
    shown = client.post("/courses/1/load", data=HERE | {"act": "split"}).text
    assert "Small can cannot be kept apart" in shown
    wrong = client.post(
        "/courses/1/load", data=HERE | kit | {"act": "add-kit", "kit_net": "1 kg"}
    ).text
    assert "more fuel than it weighs" in wrong
