"""Food, water and fuel over HTTP: what is said, its cures in one press, and nonsense."""

import pytest

from caldarium.core.assess import assess
from caldarium.core.load.water import Dry, water_wanted
from caldarium.demo import DEMOS, demo_course

HERE = {"person": "mirel"}
FOOD = "/courses/1/food"


def test_water_food_and_fuel_are_drawn_and_told(client) -> None:
    shown = client.get(FOOD).text
    assert 'class="cut supplies"' in shown
    assert "Water runs out: Tue" in shown
    assert "stoves burn 1,688 g at 4 camps" in " ".join(shown.split())
    assert 'id="camps"' in shown


@pytest.mark.parametrize("name", DEMOS)
def test_every_demo_has_its_page(client, courses, name) -> None:
    number = courses.add(demo_course(name), "made")
    for person in courses.get(number).course.people:
        assert client.get(f"/courses/{number}/food?person={person.id}").status_code == 200


def test_thirst_is_cured_in_one_press_and_everybodys_in_another(client, courses) -> None:
    client.post(FOOD, data=HERE | {"act": "fill=3.0"})
    result = assess(courses.get(1).course)
    assert result.of("mirel").load.dry == ()
    assert result.of("runa").load.dry
    client.post(FOOD, data=HERE | {"act": "fill-all"})
    assert not any(each.load.dry for each in assess(courses.get(1).course).people)


def test_a_fuel_shortage_is_cured_in_one_press(client, courses) -> None:
    client.post("/courses/1/load", data=HERE | {"act": "drop-kit=gas"})
    shown = client.get(FOOD).text
    assert "it is out on Mon" in " ".join(shown.split())
    wanted = shown.split('value="burn=')[1].split('"')[0]
    client.post(FOOD, data=HERE | {"act": f"burn={wanted}"})
    fuel = assess(courses.get(1).course).fuel
    assert fuel.out == ()
    assert fuel.over >= 0


def test_plans_and_caches_are_kept_as_typed(client, courses) -> None:
    plan = {
        "water_l": "2",
        "containers_l": "100 fl oz",
        "food_g_a_day": "1 lb 7 oz",
        "fuel_g_a_day": "40",
    }
    client.post(FOOD, data=HERE | plan | {"act": "plan"})
    person = courses.get(1).course.people[2]
    assert person.containers_l == pytest.approx(2.957, abs=0.001)
    assert person.food_g_a_day == pytest.approx(652.04, abs=0.01)
    assert 'value="1 lb 7 oz"' in client.get(f"{FOOD}?person=mirel").text
    assert 'value="1 lb 7 oz"' in client.get("/courses/1/people/mirel").text
    client.post(FOOD, data=HERE | {"act": "everybody"} | plan)
    assert {p.fuel_g_a_day for p in courses.get(1).course.people} == {40}
    lay = {"act": "add-cache", "cache_at": "2.back", "cache_rations": "2", "cache_water": "1 L"}
    client.post(FOOD, data=HERE | lay)
    cache = courses.get(1).course.caches[0]
    assert (cache.rations, cache.water_l) == (2, 1)
    assert "2 days of food and fuel and 1 L" in " ".join(client.get(FOOD).text.split()).replace(
        "1.0 L", "1 L"
    )
    client.post(FOOD, data=HERE | {"act": "drop-cache=0"})
    assert courses.get(1).course.caches == ()


def test_stoves_and_treatment_are_kept(client, courses) -> None:
    form = {
        "stove": "liquid",
        "treated": "boiled",
        "boiled_l_a_day": "70 fl oz",
        "pot_l": "2.5 L",
        "stove_kw": "2.2",
        "stoves": "4",
        "spare_share": "20 %",
    }
    client.post(FOOD, data=HERE | form | {"act": "kitchen"})
    course = courses.get(1).course
    plan = course.provisions
    assert course.boiled_l_a_day == pytest.approx(2.07, abs=0.001)
    assert (plan.stove, plan.treated, plan.stoves) == ("liquid", "boiled", 4)
    assert (plan.pot_l, plan.stove_kw, plan.spare_share) == (2.5, 2.2, pytest.approx(0.2))
    shown = client.get(FOOD).text
    assert 'value="70 fl oz"' in shown
    assert "carry tablets" in shown
    revision = courses.get(1).revision
    client.post(FOOD, data=HERE | {"act": "kitchen"})
    assert courses.get(1).revision == revision


def test_a_menu_is_written_dish_by_dish(client, courses) -> None:
    dish = {
        "act": "add-dish",
        "dish_name": "Porridge",
        "dish_meal": "breakfast",
        "dish_mass": "4 oz",
        "dish_kcal": "430",
        "dish_cooked": "on",
        "dish_day": "",
    }
    client.post(FOOD, data=HERE | dish)
    (kept,) = courses.get(1).course.provisions.menu
    assert (kept.id, kept.cooked, kept.day, kept.kcal) == ("porridge", True, None, 430)
    client.post(FOOD, data=HERE | dish | {"dish_day": "2", "dish_kcal": ""})
    menu = courses.get(1).course.provisions.menu
    assert (menu[1].id, menu[1].day, menu[1].kcal) == ("porridge-2", 2, None)
    assert "Porridge" in client.get(FOOD).text
    client.post(FOOD, data=HERE | {"act": "drop-dish=porridge"})
    assert len(courses.get(1).course.provisions.menu) == 1


@pytest.mark.parametrize(
    ("form", "words"),
    [
        ({"act": "plan", "water_l": "4", "containers_l": "2"}, "in bottles that hold"),
        ({"act": "plan", "water_l": "lots"}, "is not a number"),
        ({"act": "plan", "water_l": ""}, "type a number"),
        ({"act": "add-cache", "cache_at": "2.nowhere", "cache_rations": "2"}, "no such leg"),
        ({"act": "add-cache", "cache_at": "", "cache_rations": "2"}, "choose where"),
        ({"act": "add-cache", "cache_at": "2.back", "cache_rations": "many"}, "is not a number"),
        ({"act": "add-cache", "cache_at": "2.back"}, "type what it holds"),
        ({"act": "kitchen", "pot_l": "0"}, "must be more than 0"),
        ({"act": "kitchen", "stoves": "1.5"}, "write a whole number"),
        ({"act": "kitchen", "spare_share": "much"}, "is not a number"),
        ({"act": "add-dish", "dish_name": "", "dish_mass": "90"}, "is needed"),
        ({"act": "add-dish", "dish_name": "x", "dish_mass": ""}, "type a number"),
        ({"act": "add-dish", "dish_name": "x", "dish_mass": "9", "dish_kcal": "-1"}, "at least 0"),
        ({"act": "bag", "bag_item": "book", "bag_how": "waits at"}, "choose"),
    ],
)
def test_what_is_wrong_is_told_where_it_was_typed(client, courses, form, words) -> None:
    shown = client.post(FOOD, data=HERE | form)
    assert shown.status_code == 200
    assert words in shown.text
    assert courses.get(1).revision == 1


@pytest.mark.parametrize(
    "form",
    [
        {"act": "explode"},
        {},
        {"act": "drop-cache=7"},
        {"act": "drop-dish=ghost"},
        {"act": "fill=much"},
        {"act": "burn=-4"},
        {"act": "burn=1500"},
        {"act": "fill=40"},
        {"act": "burn=nan"},
        {"act": "plan", "person": "ghost"},
    ],
)
def test_nonsense_changes_nothing(client, courses, form) -> None:
    ghost = "person" in form
    assert client.post(FOOD, data=HERE | form).status_code == (404 if ghost else 200)
    assert courses.get(1).revision == 1


def test_a_jacket_is_left_and_fetched_again(client, courses) -> None:
    bag = {"person": "runa", "act": "bag", "bag_item": "light-synthetic-jacket"}
    first = bag | {"bag_how": "is fetched again at", "bag_at": "3.stream-side"}
    assert "say first where it is left" in client.post(FOOD, data=first).text
    client.post(FOOD, data=bag | {"bag_how": "is left at", "bag_at": "1.plateau"})
    client.post(FOOD, data=first)
    jacket = next(
        each
        for each in courses.get(1).course.people[0].garments
        if each.id == "light-synthetic-jacket"
    )
    assert (jacket.left_at.leg, jacket.waits_at.leg) == ("plateau", "stream-side")
    shown = " ".join(client.get(f"{FOOD}?person=runa").text.split())
    assert "is left at the end of Tue, plateau and fetched again at the end of Thu" in shown


def test_own_things_wait_in_a_drop_bag(client, courses) -> None:
    item = courses.get(1).course.people[0].items[0]
    form = {
        "person": "runa",
        "act": "bag",
        "bag_item": item.id,
        "bag_how": "waits at",
        "bag_at": "2.back",
    }
    shown = client.post("/courses/1/food", data=form).text
    assert "waits at the end of Wed, back" in shown
    assert "belongs on a back" not in shown
    aid = client.post("/courses/1/food", data=form | {"bag_item": "first-aid"}).text
    assert "Safety kit belongs on a back all the way" in aid
    client.post(
        "/courses/1/food", data=form | {"bag_item": "first-aid", "bag_how": "goes all the way"}
    )
    kept = courses.get(1).course.people[0].items[0]
    assert (kept.waits_at.day, kept.waits_at.leg) == (2, "back")
    client.post("/courses/1/food", data=form | {"bag_how": "goes all the way"})
    assert courses.get(1).course.people[0].items[0].waits_at is None
    revision = courses.get(1).revision
    for wrong, message in (
        ({"bag_at": "1.back"}, "no such leg"),
        ({"bag_at": "x"}, "choose where"),
        ({"bag_item": "nothing"}, "choose something"),
    ):
        shown = client.post("/courses/1/food", data=form | wrong).text
        assert message in shown
    assert courses.get(1).revision == revision


def test_food_that_comes_out_again_is_told(client, courses) -> None:
    lay = {"act": "add-cache", "cache_at": "2.back", "cache_rations": "6"}
    client.post(FOOD, data=HERE | lay)
    assert "of food comes out again" in client.get(f"{FOOD}?person=runa").text


def test_more_than_anybody_can_carry_is_asked_of_nobody(client, courses) -> None:
    def parched(course):
        days = tuple(
            day.altered(
                conditions=day.conditions.altered(high_c=45, low_c=38),
                camp=day.camp and day.camp.altered(water=False),
            )
            for day in course.days
        )
        return course.altered(days=days, boiled_l_a_day=10)

    courses.change(1, "parched", parched)
    assert client.get(FOOD).status_code == 200
    assert client.post(FOOD, data=HERE | {"act": "fill-all"}).status_code == 200
    assert client.get(FOOD).status_code == 200
    person = courses.get(1).course.people[0]
    assert water_wanted(person, (Dry(9.0, 17.0, 40.0),)) == 15
