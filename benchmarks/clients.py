"""Many clients on one course at once: every change that was answered as kept must be there.

Usage: python benchmarks/clients.py [CLIENTS] [SECONDS]
"""

import http.client
import re
import socket
import subprocess
import sys
import tempfile
import threading
import time
import urllib.parse
from collections import Counter

MARK = re.compile(r'name="mark"\s+value="([^"]+)"')
FIELDS = ("food_g_a_day", "fuel_g_a_day")
PEOPLE = ("runa", "tavi", "mirel", "jonna", "pell", "ossi", "dag", "lumi", "hale", "wren")


def asked(port: int, method: str, path: str, form: dict[str, str] | None = None):
    """Status and text of one request."""
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
    body = urllib.parse.urlencode(form) if form else None
    headers = {"Content-Type": "application/x-www-form-urlencoded"} if form else {}
    connection.request(method, path, body, headers)
    reply = connection.getresponse()
    text = reply.read().decode()
    connection.close()
    return reply.status, text


class Client(threading.Thread):
    """One person at one page, changing one figure again and again."""

    def __init__(self, number: int, port: int, ends: float) -> None:
        super().__init__()
        self.port, self.ends = port, ends
        self.who, self.field = PEOPLE[number % 10], FIELDS[number // 10 % 2]
        self.kept = 0
        self.answers: Counter[int] = Counter()

    def run(self) -> None:
        page = f"/courses/1/people/{self.who}"
        step = 0
        while time.monotonic() < self.ends:
            step += 1
            _, text = asked(self.port, "GET", page)
            mark = MARK.search(text)
            assert mark is not None
            value = 100 + step % 900
            form = {"mark": mark[1], self.field: f"{value} g"}
            status, _ = asked(self.port, "POST", page + "/body", form)
            self.answers[status] += 1
            if status == 303:
                self.kept = value


def main() -> None:
    """Start a server, let the clients work, and compare what they were told with what is there."""
    clients, seconds = (int(each) for each in (*sys.argv[1:], "20", "120")[:2])
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    folder = tempfile.mkdtemp()
    start = "from caldarium.cli import main; main()"
    command = [sys.executable, "-c", start, "demo", "--database", f"{folder}/a.sqlite"]
    server = subprocess.Popen([*command, "--port", str(port)], stdout=subprocess.DEVNULL)
    try:
        for _ in range(100):
            try:
                asked(port, "GET", "/")
                break
            except OSError:
                time.sleep(0.2)
        ends = time.monotonic() + seconds
        working = [Client(number, port, ends) for number in range(clients)]
        for each in working:
            each.start()
        for each in working:
            each.join()
        lost = 0
        for each in working:
            _, text = asked(port, "GET", f"/courses/1/people/{each.who}")
            there = re.search(rf'name="{each.field}"[^>]*?value="(\d+) g"', text)
            lost += there is None or int(there[1]) != each.kept
        answers = sum((each.answers for each in working), Counter())
        print(f"{clients} clients, {seconds} s: {dict(answers)} answers, {lost} changes lost")
        raise SystemExit(1 if lost else 0)
    finally:
        server.terminate()


if __name__ == "__main__":
    main()
