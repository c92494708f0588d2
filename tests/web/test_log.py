"""Log and debrief as their user meets them: read, told, taken, refused, carried on."""

import io
import json
import re

import pytest

from caldarium.core.plan.log import MOST_READINGS, PARTY
from caldarium.demo import DEMOS, demo_course, demo_store
from caldarium.formats.course_json import read_course
from tests.courses import from_nothing


def told(at: int, **fields) -> dict:
    plain = {"kind": "slept", "person": "runa", "day": "1", "felt": "cold"}
    return {
        "token": f"token-{at:04d}",
        "at": "2026-09-25T07:00:00Z",
        "by": "Hale",
        "fields": {**plain, **fields} if fields.get("kind", "slept") == "slept" else fields,
    }


def tell(client, *things):
    return client.post("/courses/1/log/tell", json={"told": list(things)})


def log_of(client, number: int = 1):
    return client.app.state.logs.of(number)


def bare(client, name: str = "autumn-fell") -> int:
    """A demo without its log."""
    return client.app.state.courses.add(demo_course(name).altered(log={}), "made")


def send(client, page: str, number: int = 1, **form):
    return client.post(f"/courses/{number}/{page}", data=form, follow_redirects=True)


def test_answers_are_kept_once_and_what_is_wrong_is_told_by_token(client) -> None:
    before = len(log_of(client).entries)
    answer = tell(
        client,
        told(1),
        told(1),
        told(2, person="ghost"),
        told(3, day="99"),
        told(4, felt="grand"),
        told(5, woke="half past never"),
        told(6, kind="halted", moment="2.climb.halt", minutes="25 min"),
        told(7, kind="halted", moment="2.climb.halt", minutes=""),
        told(8, kind="magic"),
        told(9, kind="was", person="runa", moment="2.climb.halt", felt="cool", sweat="yes"),
        {"token": "token-0010"},
        "nonsense",
    ).json()
    assert answer["kept"] == ["token-0001", "token-0001", "token-0006", "token-0009"]
    why = {each["token"]: each["why"] for each in answer["refused"]}
    assert "no person ghost" in why["token-0002"]
    assert "no day 99" in why["token-0003"]
    assert why["token-0007"] == "nothing was typed"
    assert len(log_of(client).entries) == before + 3


BODIES = [b"", b"[]", b'{"told": 3}', b"\xff", b'{"told": [[]]}', b"[" * 9999]


@pytest.mark.parametrize("body", BODIES)
def test_any_body_is_answered(client, body: bytes) -> None:
    answer = client.post("/courses/1/log/tell", content=body)
    assert answer.status_code in (200, 400)


def test_an_answer_without_a_script_stands_on_the_page_with_its_fault(client) -> None:
    send(client, "log/diary", kind="slept", person="dag", day="1", felt="cool", back_day="1",
         back_part="morning", by="Wren")  # fmt: skip
    text = client.get("/courses/1/log/diary?day=1&part=morning").text
    assert re.search(r'value="cool" aria-pressed="true" aria-label="Dag Holm: cool"', text)
    text = send(client, "log/diary", kind="slept", person="dag", day="1", felt="cool",
                woke="soon", back_day="1", back_part="morning").text  # fmt: skip
    assert "Not kept" in text
    assert 'value="soon"' in text


def test_a_bed_as_planned_is_no_news_and_one_without_a_pad_is(client) -> None:
    number = bare(client)
    text = client.get(f"/courses/{number}/log/diary?day=1&part=morning").text
    form = text[text.index('data-key="lay runa 1') :]
    planned = re.search(r'name="worn-planned" value="([^"]*)"', form)[1]
    pads = re.search(r'name="pads-planned" value="([^"]*)"', form)[1]
    sent = {"kind": "lay", "person": "runa", "day": "1", "worn-planned": planned}
    sent |= {"worn": planned.split(), "pads-planned": pads, "shelter": "tunnel-east"}
    send(client, "log/diary", number, **sent, pads=pads.split())
    send(client, "log/diary", number, **sent)
    one, other = (each.event for each in log_of(client, number).entries)
    assert (one.worn, one.pads, one.moved) == (None, None, False)
    assert (other.worn, other.pads) == (None, ())


CSV = "time,outside (°C),in bed (°F)\n" + "".join(
    f"2026-09-{21 + hour // 24:02d} {hour % 24:02d}:00,{hour % 7 - 3},{80 - hour % 3}\n"
    for hour in range(100)
)


def upload(client, data: str | bytes, **form):
    content = data.encode() if isinstance(data, str) else data
    files = {"file": ("logger.csv", io.BytesIO(content))}
    return client.post("/courses/1/log/thermometers/file", data=form, files=files)


def test_a_file_is_read_looked_at_placed_and_taken_away(client) -> None:
    have = len(log_of(client).thermometers)
    text = upload(client, CSV).text
    assert "2 read from logger.csv. Say where each was." in text
    assert [each.where for each in log_of(client).thermometers[have:]] == ["nowhere"] * 2
    which = log_of(client).thermometers[-1].id
    form = {"thermometer": which, "place": "bed runa", "name": "Runa", "clock": "utc"}
    form |= {"first": "2026-09-21 00:00", "ahead_first": "", "ahead_last": "-3 min", "act": "keep"}
    send(client, "log/thermometers", **form)
    kept = log_of(client).thermometers[-1]
    assert (kept.where, kept.of, kept.utc_offset_h) == ("bed", "runa", 0.0)
    assert kept.ahead_last_s == -180
    assert "Runa’s bed" in client.get("/courses/1/log").text
    for name, value in (("place", "moon"), ("first", "soon"), ("ahead_first", "x"), ("name", "")):
        wrong = send(client, "log/thermometers", **{**form, name: value}).text
        assert 'class="error"' in wrong
        assert log_of(client).thermometers[-1] == kept
    send(client, "log/thermometers", **{**form, "act": "remove"})
    assert len(log_of(client).thermometers) == have + 1
    assert send(client, "log/thermometers", thermometer="ghost").status_code == 404


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "empty"),
        ("time,T\n03/04/2026 06:00,1\n", "say which"),
        ("x,y\n1,2\n", "no row with a time"),
        (bytes(range(256)) * 20, "logger.csv was not taken"),
    ],
)
def test_a_file_that_is_none_is_told_at_its_field_and_nothing_is_kept(client, data, words) -> None:
    before = log_of(client)
    assert words in upload(client, data).text
    assert log_of(client) == before


def test_no_file_is_told(client) -> None:
    assert "Choose a file first." in client.post("/courses/1/log/thermometers/file", data={}).text


def test_a_year_of_minutes_is_cut_to_the_course(client) -> None:
    rows = "".join(f"2026-09-{day:02d} {h:02d}:{m:02d},{day % 5}\n"
                   for day in range(1, 31) for h in range(24) for m in range(0, 60, 5))  # fmt: skip
    upload(client, "time,T\n" + rows)
    kept = log_of(client).thermometers[-1]
    assert len(kept.celsius) == 7 * 144 <= MOST_READINGS


def test_the_simulated_device_is_read_out_and_its_seed_is_asked_in_words(client) -> None:
    have = len(log_of(client).thermometers)
    assert "was read out" in send(client, "log/thermometers/device", seed="5").text
    assert len(log_of(client).thermometers) == have + 2
    assert "whole number" in send(client, "log/thermometers/device", seed="five").text


def test_readings_and_diary_go_out_as_tables(client) -> None:
    text = client.get("/courses/1/log/thermometers.csv").text
    assert text.startswith("time (UTC),outside (°C),tunnel tent (°C)")
    have = len(log_of(client).thermometers)
    upload(client, text)
    first, again = log_of(client).thermometers[0], log_of(client).thermometers[have]
    known = [each for each in first.celsius if each is not None]
    assert [each for each in again.celsius if each is not None] == pytest.approx(known, abs=0.011)
    diary = client.get("/courses/1/log/diary.csv").text.splitlines()
    assert diary[0] == "told at (UTC),by,kind,person,day,what"
    assert len(diary) == len(log_of(client).entries) + 1


def mark_of(text: str) -> str:
    return re.search(r'name="mark" value="([^"]+)"', text)[1]


def plan_of(client, number: int = 1):
    return client.app.state.courses.get(number).course


def decide(client, act: str):
    mark = mark_of(client.get("/courses/1/log/learned").text)
    return send(client, "log/learned", act=act, mark=mark).text


def test_nothing_learned_is_in_force_until_taken_and_one_step_undoes_it(client) -> None:
    before = plan_of(client).person("tavi").sleeper_index
    text = client.get("/courses/1/log/learned").text
    assert "Tavi Orrin sleeps about" in text
    assert plan_of(client).person("tavi").sleeper_index == before
    taken = decide(client, "take=sleep tavi")
    assert "taken, in force" in taken
    after = plan_of(client).person("tavi")
    assert after.sleeper_index > before
    assert after.sleeper_nights == 4
    again = client.get("/courses/1/log/learned").text
    client.post("/courses/1/undo", data={"mark": mark_of(again), "back": "/"})
    assert plan_of(client).person("tavi").sleeper_index == before
    assert "taken, in force" not in client.get("/courses/1/log/learned").text


def test_what_was_taken_is_told_where_it_counts_and_a_typed_index_rests_on_no_night(client) -> None:
    assert "as logs found Tavi Orrin: sleep" not in client.get("/courses/1/night?person=tavi").text
    decide(client, "take-all")
    assert "as logs found Tavi Orrin: sleep" in client.get("/courses/1/night?person=tavi").text
    assert "as logs found" in client.get("/courses/1/day?person=tavi").text
    page = client.get("/courses/1/people/tavi").text
    form = {"mark": mark_of(page), "sleeper_index": "0.7"}
    client.post("/courses/1/people/tavi/body", data=form)
    person = plan_of(client).person("tavi")
    assert (person.sleeper_index, person.sleeper_nights, person.sleeper_sd) == (0.7, 0, 0.5)


def test_halts_and_ways_are_for_the_next_course_and_not_taken_into_this(client) -> None:
    text = client.get("/courses/1/log/learned").text
    assert "for the next course" in text
    assert 'value="take=halts hale"' not in text
    assert send(client, "log/learned", act="take=halts hale").status_code == 404
    decide(client, "take-all")
    assert plan_of(client).person("hale").halts is None


def test_what_is_refused_after_it_was_taken_is_put_back(client) -> None:
    before = plan_of(client).person("tavi")
    decide(client, "take=sleep tavi")
    assert "refused" in decide(client, "refuse=sleep tavi")
    assert plan_of(client).person("tavi") == before
    assert send(client, "log/learned", act="take=sleep ghost").status_code == 404


def test_all_is_taken_at_once_and_the_next_log_of_it_counts_no_night_twice(client) -> None:
    decide(client, "take-all")
    first = plan_of(client)
    decide(client, "take-all")
    assert plan_of(client).person("tavi").sleeper_index == pytest.approx(
        first.person("tavi").sleeper_index
    )


def test_bands_widen_only_where_the_user_says_so_and_are_undone(client) -> None:
    number = bare(client)
    rows = "".join(f"2026-09-{21 + at // 24:02d} {at % 24:02d}:00,-25\n" for at in range(120))
    files = {"file": ("cold.csv", io.BytesIO(f"time,T\n{rows}".encode()))}
    client.post(f"/courses/{number}/log/thermometers/file", data={}, files=files)
    which = log_of(client, number).thermometers[0].id
    form = {"thermometer": which, "place": "outside", "name": "T", "first": "2026-09-21 00:00"}
    send(client, "log/thermometers", number, **form, act="keep")
    text = client.get(f"/courses/{number}/log/right").text
    assert "wider" in text
    before = plan_of(client, number).spread
    send(client, "log/right", number, act="bands", mark=mark_of(text))
    after = plan_of(client, number).spread
    assert after.cautious.low_k < before.cautious.low_k
    client.post(f"/courses/{number}/undo", data={"back": "/"})
    assert plan_of(client, number).spread == before


def test_a_deleted_night_takes_back_what_it_taught(client) -> None:
    number = bare(client)
    for day in (1, 2):
        send(client, "log/diary", number, kind="slept", person="tavi", day=str(day), felt="cold")
    both = client.get(f"/courses/{number}/log/learned").text
    send(client, "log", number, act="night=2")
    one = client.get(f"/courses/{number}/log/learned").text
    assert "2 nights" in both
    assert "2 nights" not in one
    send(client, "log", number, act="forget=tavi")
    assert log_of(client, number).empty
    assert "Nothing was logged" in client.get(f"/courses/{number}/log").text


def test_a_test_night_is_made_logged_and_told_to_the_real_course(client) -> None:
    number = bare(client)
    made = client.post(
        f"/courses/{number}/debrief/test-night",
        data={"night": "2", "test_name": "Near the road", "test_start": "2026-09-05"},
        follow_redirects=False,
    ).headers["location"]
    tried = int(made.rsplit("/", 1)[1])
    course = plan_of(client, tried)
    assert [len(course.days), course.start.isoformat()] == [2, "2026-09-05"]
    low = re.sub(r'"low_c":-?[0-9.]+', '"low_c":-9.0', plan_of(client, tried).model_dump_json())
    client.app.state.courses.change(tried, "colder", lambda _: read_course(low.encode()))
    assert "Look for courses" not in client.get(f"/courses/{tried}/log/learned").text
    for who in ("tavi", "mirel"):
        send(client, "log/diary", tried, kind="slept", person=who, day="0", felt="cold")
    assert "Look for courses" in client.get(f"/courses/{tried}/log/learned").text
    text = client.get(f"/courses/{tried}/log/learned?to={number}").text
    assert "with what was learned" in text
    assert f'value="carry={number}"' in text
    before = plan_of(client, number).person("tavi").sleeper_index
    send(client, "log/learned", tried, act=f"carry={number}")
    assert plan_of(client, number).person("tavi").sleeper_index > before
    again = client.get(f"/courses/{tried}/log/learned?to={number}").text
    assert f'value="carry={number}"' not in again


def test_faults_of_a_test_night_and_of_the_next_course_stand_at_their_fields(client) -> None:
    text = send(client, "debrief/test-night", night="9", test_name="", test_start="soon").text
    assert text.count('class="error"') == 3
    assert 'value="soon"' in text
    text = send(client, "debrief/next", name="", start="2026-99-99").text
    assert 'value="2026-99-99"' in text
    assert client.app.state.courses.count() == 1


def test_the_next_course_takes_what_stays_ticked(client) -> None:
    page = client.get("/courses/1/debrief").text
    keys = re.findall(r'name="take" value="([^"]+)"', page)
    assert "sleep tavi" in keys
    made = client.post(
        "/courses/1/debrief/next",
        data={"name": "Next", "start": "2027-09-20", "take": ["sleep tavi", "ghost"]},
        follow_redirects=False,
    ).headers["location"]
    number = int(made.rsplit("/", 1)[1])
    course = plan_of(client, number)
    assert course.person("tavi").sleeper_index > plan_of(client).person("tavi").sleeper_index
    assert course.person("runa") == plan_of(client).person("runa")
    assert log_of(client, number).empty


def test_things_are_written_down_by_name_or_tag_taken_back_and_told_to_the_store(client) -> None:
    client.app.state.pieces.put(demo_store(), "the store")
    tag = demo_store()[0].tag
    assert "say what it was" in send(client, "debrief", subject=PARTY, what="failed", name="").text
    assert "nothing called" in send(client, "debrief", subject="runa", what="unused", name="x").text
    text = send(client, "debrief", subject="runa", what="failed", name=tag, note="torn").text
    assert f"{tag}" in text
    send(client, "debrief", act=f"store={tag}", task="mend")
    assert client.app.state.pieces.get(tag).condition == "to mend"
    assert "the store knows" in client.get("/courses/1/debrief").text
    name = demo_store()[0].name
    send(client, "debrief", subject="runa", what="failed", name=name, tag=tag, so="no")
    assert "torn" not in client.get("/courses/1/debrief").text


def test_the_season_works_itself_out_and_can_be_stopped(client) -> None:
    assert "Work out 1 logged course" in client.get("/season").text
    client.post("/season", data={"act": "begin"})
    client.app.state.works.settle(60)
    text = client.get("/season").text
    assert demo_course().name in text
    assert "never put on" in text
    assert "tunnel-east" not in text
    assert re.search(r'scope="row">tunnel tent, three</th>', text)
    client.post("/season", data={"act": "stop"})


def test_a_season_without_a_log_says_what_to_do(client) -> None:
    client.app.state.courses.delete(1)
    assert "No course has a log yet" in client.get("/season").text


@pytest.mark.parametrize("name", [*DEMOS, "nothing"])
def test_every_page_of_the_log_answers_for_every_course_with_and_without_one(client, name) -> None:
    course = from_nothing() if name == "nothing" else demo_course(name)
    number = client.app.state.courses.add(course.altered(log={}), "made")
    pages = ("log", "log/diary", "log/thermometers", "log/learned", "log/right", "log/sheet",
             "debrief", "log/diary.csv", "log/thermometers.csv")  # fmt: skip
    for told_too in (False, True):
        if told_too:
            for day in range(len(course.days)):
                for part in ("morning", "evening"):
                    fields = {"kind": "others right", "day": str(day), "part": part}
                    send(client, "log/diary", number, **fields)
            client.post(f"/courses/{number}/log/thermometers/device", data={"seed": "3"})
        for page in pages:
            for day in ("", "?day=0&part=morning", "?day=99&part=x"):
                answer = client.get(f"/courses/{number}/{page}{day}")
                assert answer.status_code == 200, page


def test_a_course_whose_people_and_tents_are_gone_keeps_its_log_readable(client) -> None:
    document = json.loads(client.get("/courses/1/export").content)
    document["people"] = [p for p in document["people"] if p["id"] in ("hale", "wren")]
    document["shelters"] = [s for s in document["shelters"] if s["id"] == "dome"]
    document["name"] = "Fewer"
    number = client.app.state.courses.add(read_course(json.dumps(document).encode()), "made")
    for page in ("log", "log/learned", "log/right", "debrief", "log/diary", "log/thermometers"):
        assert client.get(f"/courses/{number}/{page}").status_code == 200
    assert "no longer on the course" in client.get(f"/courses/{number}/log").text
