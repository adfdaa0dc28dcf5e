#!/usr/bin/env python3
"""Random parts of many families, drawn by a program of their own, to see what share of them is rebuilt exactly.

    tests/parts/random_parts.py --views build/release/bin/part_views --door build/release/bin/upper-prism-cli --count 20

Every part is a list of plain operations (part_views.cpp makes the solid and projects it); the sheet is written by a DXF
library. Printed by family: how many come out exact (volume to 1e-5) with a clean proof, how many are wrong although the
proof is clean, and the slowest. With --check also the sound sheets on which the checks say an error or a warning.
"""
import argparse, collections, concurrent.futures, json, pathlib, random, subprocess, sys, tempfile, time

from families import FAMILIES, Part
from more_families import FURTHER
from office_families import OFFICE
from sheets import sheet, views_of


def made(family, seed, views_program, folder):
    rng = random.Random("%s %d" % (family.__name__, seed))
    for attempt in range(20):
        part = Part(rng)
        part.third, part.gap, part.side = rng.random() < 0.5, rng.choice([25, 35, 50]), rng.choice(["right", "left"])
        try:
            family(part)
            truth = views_of(part, views_program)
        except (RuntimeError, ValueError):
            continue  # sizes that do not go together
        if truth["solids"] == 1 and truth["volume"] > 0:
            break
    else:
        raise RuntimeError("no part of %s with seed %d" % (family.__name__, seed))
    target = pathlib.Path(folder) / ("%s-%03d.dxf" % (family.__name__, seed))
    sheet(part, truth, target)
    target.with_suffix(".txt").write_text("\n".join(part.ops) + "\n")
    return target, truth


def asked(door, verb, path, limit):
    began = time.monotonic()
    try:
        r = subprocess.run([door, verb, str(path), "--json"], capture_output=True, text=True, timeout=limit)
        return json.loads(r.stdout), time.monotonic() - began, r.returncode
    except subprocess.TimeoutExpired:
        return None, limit, -1
    except json.JSONDecodeError:
        return None, time.monotonic() - began, r.returncode


def main():
    a = argparse.ArgumentParser(description=__doc__.split("\n")[0])
    a.add_argument("--views", default="build/release/bin/part_views")
    a.add_argument("--door", default="build/release/bin/upper-prism-cli")
    a.add_argument("--count", type=int, default=10, help="parts of each family")
    a.add_argument("--first", type=int, default=0, help="the first seed")
    a.add_argument("--family", action="append", help="only these")
    a.add_argument("--keep", help="a folder for the sheets")
    a.add_argument("--jobs", type=int, default=2)
    a.add_argument("--limit", type=float, default=120, help="seconds before one is given up")
    a.add_argument("--check", action="store_true")
    a.add_argument("--floors", type=pathlib.Path, help="shares by family that may not be undercut")
    a.add_argument("--expected", type=pathlib.Path, help="parts that are known not to come out, with the reason; fails where others do not, or one of them does")
    a.add_argument("--raise", action="store_true", dest="raised", help="write higher shares into the floors")
    o = a.parse_args()
    folder = o.keep or tempfile.mkdtemp(prefix="parts-")
    pathlib.Path(folder).mkdir(parents=True, exist_ok=True)
    families = [f for f in FAMILIES + FURTHER + OFFICE if not o.family or f.__name__ in o.family]

    def one(job):
        family, seed = job
        path, truth = made(family, seed, o.views, folder)
        j, seconds, status = asked(o.door, "build", path, o.limit)
        proof = (j or {}).get("proof") or {}
        volume = (j or {}).get("volume")
        exact = volume is not None and abs(volume - truth["volume"]) <= 1e-5 * truth["volume"]
        proved = bool(proof.get("proved"))
        said = []
        if o.check:
            found, _, _ = asked(o.door, "check", path, o.limit)
            said = [f["kind"] for f in (found or {}).get("findings", []) if f["severity"] in ("error", "warning")]
        return family.__name__, seed, exact, proved, seconds, volume, truth, said

    known = json.loads(o.expected.read_text()) if o.expected else {}
    by = collections.defaultdict(lambda: collections.Counter())
    slowest = collections.defaultdict(float)
    with concurrent.futures.ThreadPoolExecutor(o.jobs) as pool:
        for name, seed, exact, proved, seconds, volume, truth, said in pool.map(one, [(f, o.first + i) for i in range(o.count) for f in families]):
            c = by[name]
            c["all"] += 1
            c["exact"] += exact and proved
            c["unsaid"] += exact and not proved
            c["wrong"] += proved and not exact
            c["loud"] += bool(said)
            slowest[name] = max(slowest[name], seconds)
            reason = known.get("%s %d" % (name, seed))
            if reason:
                print("%s %d is known not to come out: %s" % (name, seed, reason))
            if o.expected and (exact and proved) == (reason is not None):
                print("%s %d: got %s, is %.3f%s" % (name, seed, volume, truth["volume"], ", which was known not to come out" if reason else ""), flush=True)
                pool.shutdown(cancel_futures=True)
                sys.exit(1)
            if not (exact and proved) or said:
                print("%-16s %3d  %s  %6.1f s  got %s, is %.3f%s" % (
                    name, seed, "WRONG" if proved and not exact else "ok" if exact and proved else "open", seconds,
                    volume, truth["volume"], "  " + ",".join(sorted(set(said))) if said else ""), flush=True)
    print("\nfamily            parts  exact  right but unproved  proved but wrong  not silent  slowest")
    total = collections.Counter()
    for name, c in by.items():
        total += c
        print("%-16s %6d %6d %19d %17d %11d %7.1f s" % (name, c["all"], c["exact"], c["unsaid"], c["wrong"], c["loud"], slowest[name]))
    print("%-16s %6d %6d %19d %17d %11d" % ("together", total["all"], total["exact"], total["unsaid"], total["wrong"], total["loud"]))
    if o.floors:
        sys.exit(held(o, {name: c["exact"] / c["all"] for name, c in by.items()}))


def held(o, shares):
    """Whether no share lies below its floor; raises those that were reached, when asked to."""
    floors = json.loads(o.floors.read_text()) if o.floors.exists() else {}
    below = {name: share for name, share in shares.items() if round(share, 3) < floors.get(name, 0)}
    for name, share in below.items():
        print("%s: %.3f is below its floor of %.3f" % (name, share, floors[name]))
    if o.raised:
        floors.update({name: round(max(share, floors.get(name, 0)), 3) for name, share in shares.items()})
        o.floors.write_text(json.dumps(dict(sorted(floors.items())), indent=1) + "\n")
    return 1 if below else 0


if __name__ == "__main__":
    main()
