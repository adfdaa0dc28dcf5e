#!/usr/bin/env python3
"""Plants faults in sound sheets and counts which of them the checks find: the right kind, at the right place, with the planted number, said once.

    tests/faults/planted_faults.py --sheets DIR --door build/release/bin/upper-prism-cli [--per 2] [--seed 1] [--fault NAME] [--repair]

DIR holds NAME.dxf with NAME.truth.json (boxes of the views, layers, dimensions) of sound sheets. With --repair the repairs are applied as well,
and what is left of the findings is counted.
"""
import argparse, collections, concurrent.futures, json, math, pathlib, random, subprocess, sys, tempfile, time

from plant import FAULTS, Sheet

KINDS = {
    "dim_text_wrong": {"dimension_text_differs", "dimension_chain_open", "dimensions_disagree"},
    "missing_line": {"feature_unmatched", "outline_open"}, "shifted_feature": {"position_mismatch", "size_mismatch"},
    "wrong_scale": {"scale_mismatch"}, "mirrored_side": {"view_mirrored"}, "turned_view": {"view_turned", "view_mirrored"}, "outline_gap": {"outline_open"},
    "duplicate_lines": {"duplicate_geometry"}, "hidden_as_visible": {"line_visibility_suspect"}, "visible_as_hidden": {"line_visibility_suspect"},
    "dim_chain": {"dimension_chain_open"}, "dims_disagree": {"dimensions_disagree"}, "swapped_convention": {"convention_suspect"},
    "missing_view_depth": {"depth_undetermined", "view_missing"}, "wrong_diameter_sign": {"dimension_text_differs", "dimension_sign_suspect"},
    "displaced_hidden_line": {"position_mismatch", "feature_unmatched"}, "hole_in_one_view": {"feature_unmatched"},
    "missing_section_line": {"feature_unmatched", "outline_open"}, "missing_cutting_line": {"view_unplaced", "section_letters"},
}


def judged(fault, sheet, findings):
    """(right kind and place, number right, said once)"""
    serious = [f for f in findings if f["severity"] in ("error", "warning")]
    accepted = KINDS[fault["type"]]
    notes = fault["type"] == "duplicate_lines"
    for f in findings:
        if f["kind"] not in accepted or (f["severity"] == "note" and not notes):
            continue
        reach = 0.05 * sheet.size
        there = not fault["points_sheet"] or set(f["handles"]) & set(fault["handles"]) or any(math.dist(p, q) < reach for p in f["at_sheet"] for q in fault["points_sheet"])
        if fault["type"] in ("wrong_scale", "mirrored_side", "turned_view", "missing_view_depth", "missing_cutting_line"):
            (x0, y0), (x1, y1) = fault["points_sheet"][-2:]  # the box of the view
            there = there or any(min(x0, x1) - reach <= p[0] <= max(x0, x1) + reach and min(y0, y1) - reach <= p[1] <= max(y0, y1) + reach for p in f["at_sheet"])
            there = there or not f["at_sheet"] or any(fault["view"] in str(v) for v in f["views"])
        if not there:
            continue
        number = all(any(abs(abs(x) - abs(v)) < 1e-3 for x in f["numbers"].values()) for v in fault["numbers"].values())
        return True, number, len(serious) == (0 if notes and f["severity"] == "note" else 1)
    return False, False, False


def one(job):
    a, path, name, seed, folder = job
    truth = json.loads(path.with_suffix(".truth.json").read_text())
    rng = random.Random(f"{path.stem}-{name}-{seed}")
    sheet = Sheet(path, truth)
    fault = FAULTS[name](sheet, rng)
    if fault is None:
        return None
    out = folder / f"{path.stem}-{name}-{seed}.dxf"
    sheet.doc.saveas(out)
    out.with_suffix(".fault.json").write_text(json.dumps(fault))
    begun = time.time()
    run = subprocess.run([a.door, "check", str(out), "--json"], capture_output=True, text=True, timeout=a.limit + 60)
    took = time.time() - begun
    try:
        answer = json.loads(run.stdout)
        findings = answer["findings"]
    except (ValueError, KeyError):
        return out.stem, name, (False, False, False), took, [], None
    left = None
    if a.repair:
        saved = out.with_suffix(".uprism")
        run = subprocess.run([a.door, "check", str(out), "--json", "--repair", "all", "--save", str(saved)], capture_output=True, text=True, timeout=a.limit * 3 + 60)
        try:
            left = [f for f in json.loads(run.stdout)["findings"] if f["severity"] != "note"]
        except (ValueError, KeyError):
            left = [{"kind": "no answer", "message": run.stderr[:200]}]
    return out.stem + (" (a solid shows every line)" if answer.get("sound") else ""), name, judged(fault, sheet, findings), took, findings, left


def main():
    p = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    p.add_argument("--sheets", required=True, type=pathlib.Path, nargs="+")
    p.add_argument("--door", required=True)
    p.add_argument("--per", type=int, default=1, help="faults of each kind in each sheet")
    p.add_argument("--seed", type=int, default=1)
    p.add_argument("--fault", action="append")
    p.add_argument("--jobs", type=int, default=1)
    p.add_argument("--limit", type=float, default=60)
    p.add_argument("--every", type=int, default=1, help="only each so many-th of them")
    p.add_argument("--repair", action="store_true")
    p.add_argument("--keep", type=pathlib.Path)
    p.add_argument("--expected", type=pathlib.Path, help="faults that are known not to be found, or not once, with the reason; fails where others are not, or one of them is")
    a = p.parse_args()
    folder = a.keep or pathlib.Path(tempfile.mkdtemp())
    folder.mkdir(parents=True, exist_ok=True)
    sheets = [x for d in a.sheets for x in sorted(d.glob("*.dxf")) if not json.loads(x.with_suffix(".truth.json").read_text()).get("fault")]
    jobs = [(a, x, n, a.seed + k, folder) for n in (a.fault or FAULTS) for x in sheets for k in range(a.per)]
    jobs = [j for i, j in enumerate(jobs) if i % a.every == a.seed % a.every]
    known = json.loads(a.expected.read_text()) if a.expected else {}
    count = collections.defaultdict(lambda: [0, 0, 0, 0, 0, 0.0])
    with concurrent.futures.ThreadPoolExecutor(a.jobs) as pool:
        for r in pool.map(one, jobs):
            if r is None:
                continue
            stem, name, (kind, number, once), took, findings, left = r
            c = count[name]
            c[0] += 1
            c[1] += kind
            c[2] += number
            c[3] += once
            c[4] += kind and left is not None and not left
            c[5] = max(c[5], took)
            reason = known.get(stem.split(" (")[0])
            surprise = bool(a.expected) and (kind and number and once) == (reason is not None)
            if reason:
                print(f"{stem} is known not to be found as it should: {reason}")
            if not (kind and number and once) or left:
                print(f"{stem}: {'found' if kind else 'MISSED'}{'' if number else ', number wrong'}{'' if once else ', not once'} {took:.1f} s"
                      + (f"; left after repair: {', '.join(sorted({f['kind'] for f in left}))}" if left else ""))
                for f in findings[:6]:
                    if f["severity"] != "note":
                        print(f"    {f['kind']}: {f['message'][:150]}")
            sys.stdout.flush()
            if surprise:
                print(f"{stem}: {'was known not to be found as it should' if reason else 'was found before, in the right place and once'}")
                pool.shutdown(cancel_futures=True)
                sys.exit(1)
    print(f"\n{'fault':24}{'planted':>8}{'found':>7}{'number':>8}{'once':>6}{'mended':>8}{'slowest':>9}")
    total = [0] * 5
    for name, c in count.items():
        print(f"{name:24}{c[0]:8}{c[1]:7}{c[2]:8}{c[3]:6}{c[4] if a.repair else '-':>8}{c[5]:8.1f}s")
        total = [x + y for x, y in zip(total, c)]
    print(f"{'all':24}{total[0]:8}{total[1]:7}{total[2]:8}{total[3]:6}{total[4] if a.repair else '-':>8}")


if __name__ == "__main__":
    main()
