#!/usr/bin/env python3
"""Proposes a solid for every sheet and changes its driving numbers one at a time: on what share is the result a valid solid that shows the sheet as driven?

    tests/parts/driven_numbers.py --door build/release/bin/upper-prism-cli demo/*.dxf

Sheets without a proved proposal or without driving numbers are told and left out of the share.
"""
import argparse, collections, concurrent.futures, json, pathlib, subprocess, sys, tempfile


def answer(door, *words, limit):
    try:
        r = subprocess.run([door, *map(str, words), "--json"], capture_output=True, text=True, timeout=limit)
        return r.returncode, json.loads(r.stdout or "null"), r.stderr.strip()
    except subprocess.TimeoutExpired:
        return -1, None, "no answer in %g s" % limit
    except json.JSONDecodeError as e:
        return -1, None, str(e)


def outcome(status, j, said):
    if j is None:
        return "refused" if status > 0 and said else "no answer"
    if not j.get("valid"):
        return "no valid solid"
    proof = j.get("proof") or {}
    return "proved" if proof.get("proved") else "not proved"


def driven(o, path, folder):
    project = pathlib.Path(folder) / (path.stem + ".uprism")
    _, j, said = answer(o.door, "build", path, "--save", project, limit=o.limit)
    if not j or not (j.get("proof") or {}).get("proved"):
        return path, None, said
    results = []
    for e in j["ledger"]:
        if e["state"] != "drives":
            continue
        to = e["value"] * (1 + o.by / 100)
        unit = " deg" if e.get("unit") == "deg" else " mm"
        status, k, said = answer(o.door, "set", project, "%s=%.9g%s" % (e["name"], to, unit), limit=o.limit)
        results.append((e["name"], e["value"], outcome(status, k, said), said))
    return path, results, ""


def main():
    a = argparse.ArgumentParser(description=__doc__.split("\n")[0])
    a.add_argument("sheets", nargs="+", type=pathlib.Path)
    a.add_argument("--door", default="build/release/bin/upper-prism-cli")
    a.add_argument("--by", type=float, default=3, help="per cent")
    a.add_argument("--jobs", type=int, default=1)
    a.add_argument("--limit", type=float, default=120)
    o = a.parse_args()
    count, without = collections.Counter(), 0
    with tempfile.TemporaryDirectory() as folder, concurrent.futures.ThreadPoolExecutor(o.jobs) as pool:
        for path, results, said in pool.map(lambda p: driven(o, p, folder), o.sheets):
            if not results:
                without += 1
                print("%-32s %s" % (path.name, "no driving number" if results is not None else "not proposed: " + said[:80]), flush=True)
                continue
            for name, value, what, said in results:
                count[what] += 1
                if what != "proved":
                    print("%-32s %s from %.6g by %g %%: %s  %s" % (path.name, name, value, o.by, what, said[:110]), flush=True)
    every = sum(count.values())
    print("\n%d numbers of %d sheets (%d without)" % (every, len(o.sheets) - without, without))
    for what, n in count.most_common():
        print("%-16s %5d  %5.1f %%" % (what, n, 100 * n / every))


if __name__ == "__main__":
    main()
