#!/usr/bin/env python3
"""Plants small faults in the core, one at a time, and tells which of them the tests notice.

    scripts/plant-faults.py --count 150 --seed 1            # all stages alike
    scripts/plant-faults.py --count 20 --stage solving      # one stage
    scripts/plant-faults.py --again missed.txt              # those of an earlier list

A copy of the tree is made and built under build/faults. For every fault one line is changed (a sign, a comparison, a
flag, a limit), the core and batch-door tests and those of random parts and planted sheet faults are rebuilt and run, and the line is put back. A fault is noticed when a
test fails or does not end. The share is told by stage; faults that were not noticed are listed one by one, since some
of them change nothing: those are to be looked at, not counted away.
"""
import argparse, collections, os, pathlib, random, re, shutil, subprocess, sys, time

ROOT = pathlib.Path(__file__).resolve().parent.parent
TREE = ROOT / "build" / "faults"
BUILD = TREE / "build" / "release"

WHOLE_SHEETS = ["random_parts_1", "random_parts_2", "planted_faults"]  # by their names in tests/CMakeLists.txt

SWAPS = [
    (r" < ", " <= "), (r" <= ", " < "), (r" > ", " >= "), (r" >= ", " > "),
    (r" < ", " > "), (r" > ", " < "), (r" == ", " != "), (r" != ", " == "),
    (r" \+ ", " - "), (r" - ", " + "), (r" \* ", " / "), (r"\+= ", "-= "), (r"-= ", "+= "),
    (r" && ", " || "), (r" \|\| ", " && "), (r"\btrue\b", "false"), (r"\bfalse\b", "true"),
    (r"std::min\(", "std::max("), (r"std::max\(", "std::min("), (r"\.x\b", ".y"), (r"\.y\b", ".x"),
    (r"\b0\.5\b", "0.25"), (r"\b1\b", "2"), (r"return -", "return "), (r"if \(!", "if ("),
]


def lines_of(path):
    """Lines that do something: no comments, includes, declarations of names or static assertions."""
    for number, line in enumerate(path.read_text().splitlines()):
        bare = line.strip()
        if not bare or bare.startswith(("//", "#", "/*", "*", "using ", "namespace ", "template", "static_assert")):
            continue
        if "fmt::format" in line or '"' in line or "operator" in line:
            continue  # words are not arithmetic
        yield number, line.split("//")[0]


def faults_of(stage):
    found = []
    for path in sorted((TREE / "src" / "core" / stage).glob("*.cpp")):
        for number, line in lines_of(path):
            for pattern, instead in SWAPS:
                for m in re.finditer(pattern, line):
                    if "<" in pattern and re.search(r"\b(vector|map|set|pair|Result|optional|shared_ptr)<", line):
                        continue
                    found.append((path, number, m.start(), m.end(), instead))
    return found


def faults_in(listing):
    """The faults of an earlier list, one `path:line: was  ->  is` a line, found again by the text of the line."""
    for entry in listing.read_text().splitlines():
        m = re.match(r"(?:\s*\d+\s+(?:noticed|MISSED)\s+)?\s*(src/core/(\w+)/\S+?):(\d+): (.*)  ->  (.*)$", entry)
        if not m:
            continue
        path, was, now = TREE / m[1], m[4], m[5]
        places = [n for n, line in enumerate(path.read_text().splitlines()) if line.strip() == was]
        if not places:
            print(f"     gone     {m[1]}:{m[3]}: {was}", flush=True)
            continue
        yield m[2], path, min(places, key=lambda n: abs(n + 1 - int(m[3]))), was, now


def run(command, seconds, **more):
    try:
        return subprocess.run(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, timeout=seconds, **more).returncode
    except subprocess.TimeoutExpired:
        return None


def build(jobs):
    return run(["ninja", "-C", str(BUILD), f"-j{jobs}", "test_core", "test_cli", "part_views"], 3000) == 0


class Tests:
    """The core and batch-door tests by file, run on all processors. First comes what noticed faults of the same stage
    before, for the time that it takes; all end once one fails or takes far longer than it did without a fault."""
    SLOWER, LEAST = 10, 60  # times as long, and seconds, both of the processor: a busy machine must not notice faults

    def __init__(self, kinds, jobs):
        self.kinds, self.jobs = kinds, jobs
        self.files = [(f"test_{d}", p.stem) for d in ("core", "cli") for p in sorted((TREE / "tests" / d).glob("test_*.cpp"))]
        self.files += [("ctest", name) for name in WHOLE_SHEETS]
        self.takes = collections.defaultdict(lambda: 3000.0)  # by file and kind, seconds
        self.noticed_by = collections.Counter()  # by stage and file

    def start(self, program, stem, kind):
        command = [str(BUILD / "bin" / program), "-#", f"[#{stem}]{kind}", "--abort"]
        if program == "ctest":  # they have no slow part
            command = ["ctest", "--test-dir", str(BUILD), "-R", f"^{stem}$"] if kind == self.kinds[0] else ["true"]
        return subprocess.Popen(command, cwd=TREE,
                                env=os.environ | {"LOCPATH": str(BUILD / "locale")}, stdout=subprocess.DEVNULL,
                                stderr=subprocess.DEVNULL)

    @staticmethod
    def spent(process):
        """Seconds of the processor that a process and its ended children have used, also once it has ended but was not
        waited for."""
        numbers = pathlib.Path(f"/proc/{process.pid}/stat").read_text().rpartition(")")[2].split()
        return sum(map(int, numbers[11:15])) / os.sysconf("SC_CLK_TCK")

    def failing(self, stage=None):
        """The first file of tests that fails, none when all pass. Without a stage it is learnt how long each takes."""
        for kind in self.kinds:  # most faults are noticed by a quick test
            waiting = sorted(self.files, key=lambda f: (self.noticed_by[stage, f] + 0.1) / (0.2 + self.takes[f, kind]))
            running = {}
            try:
                while waiting or running:
                    while waiting and len(running) < self.jobs:
                        test = waiting.pop()
                        running[test] = self.start(*test, kind), time.monotonic()
                    time.sleep(0.02)
                    for test, (process, began) in list(running.items()):
                        waited = time.monotonic() - began  # counts little, but ends what waits for ever
                        took, status = max(self.spent(process), waited / 30), process.poll()
                        if status is None and took < max(self.LEAST, self.SLOWER * self.takes[test, kind]):
                            continue
                        if status != 0:
                            self.noticed_by[stage, test] += 1
                            return f"{test[1]} {kind}"
                        del running[test]
                        if stage is None:
                            self.takes[test, kind] = took
            finally:
                for process, _ in running.values():
                    process.kill()
                    process.wait()
        return None


def copied():
    TREE.mkdir(parents=True, exist_ok=True)
    files = subprocess.run(["git", "ls-files", "-co", "--exclude-standard"], cwd=ROOT, capture_output=True, text=True,
                           check=True).stdout.split("\n")
    for name in filter(None, files):
        here, there = ROOT / name, TREE / name
        if not here.is_file():
            continue
        if not there.exists() or there.read_bytes() != here.read_bytes():
            there.parent.mkdir(parents=True, exist_ok=True)
            shutil.copy(here, there)  # as of now: what was built from a planted fault is built anew
    subprocess.run(["cmake", "--preset", "release", "-DPRISM_APP=OFF"], cwd=TREE, stdout=subprocess.DEVNULL, check=True)


def drawn(stages, seed):
    """Faults at random places, one of each stage in turn."""
    chance = random.Random(seed)
    waiting = {s: chance.sample(all_of, len(all_of)) for s in stages if (all_of := faults_of(s))}
    while any(waiting.values()):
        for stage, left in waiting.items():
            if not left:
                continue
            path, number, start, end, instead = left.pop()
            line = path.read_text().splitlines()[number]
            yield stage, path, number, line.strip(), (line[:start] + instead + line[end:]).strip()


def main():
    a = argparse.ArgumentParser(description=__doc__.split("\n")[0])
    a.add_argument("--count", type=int, default=150)
    a.add_argument("--seed", type=int, default=1)
    a.add_argument("--stage", action="append", help="only this stage; may be given several times")
    a.add_argument("--again", type=pathlib.Path, help="the faults of an earlier list instead of random ones")
    a.add_argument("--jobs", type=int, default=os.cpu_count())
    a.add_argument("--quick", action="store_true", help="leave the slow tests out: what is missed then may be noticed by them")
    q = a.parse_args()
    kinds = ("~[slow]",) if q.quick else ("~[slow]", "[slow]")
    copied()
    if not build(q.jobs):
        sys.exit("the copy does not build")
    tests = Tests(kinds, q.jobs)
    if (broken := tests.failing()) is not None:
        sys.exit(f"{broken} fails without any fault")
    stages = q.stage or sorted(p.name for p in (TREE / "src" / "core").iterdir() if p.is_dir())
    faults = faults_in(q.again) if q.again else drawn(stages, q.seed)
    seen = collections.defaultdict(lambda: [0, 0])
    missed, planted = [], 0
    for stage, path, number, was, now in faults:
        if planted >= q.count:
            break
        whole = path.read_text()
        lines = whole.splitlines(keepends=True)
        lines[number] = lines[number].replace(was, now)
        try:
            path.write_text("".join(lines))
            if not build(q.jobs):
                continue  # the compiler noticed: no fault for the tests
            planted += 1
            by = tests.failing(stage)
        finally:
            path.write_text(whole)
        seen[stage][0] += by is not None
        seen[stage][1] += 1
        told = f"{path.relative_to(TREE)}:{number + 1}: {was}  ->  {now}"
        print(f"{planted:4} {'noticed' if by else 'MISSED ':8} {told}", flush=True)
        if not by:
            missed.append(told)
    print("\nstage        noticed of planted")
    for stage, (got, all_of) in sorted(seen.items()):
        print(f"{stage:12} {got:4} of {all_of:4}  {100 * got / all_of:5.0f} %")
    print("\nnot noticed, to be looked at one by one:")
    for m in missed:
        print("  " + m)


if __name__ == "__main__":
    main()
