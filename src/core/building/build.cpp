#include "core/building/combine.h"
#include "core/building/kernel.h"
#include "core/building/repeats.h"
#include "core/building/solid_steps.h"
#include "core/building/soundness.h"
#include "core/building/step_bodies.h"
#include "core/building/step_list.h"

#include <fmt/format.h>

namespace prism {
namespace {

using namespace building;

/// Consecutive steps of one operation go to the modeller together: the same result in a fraction of the time.
struct Run {
    Operation operation = Operation::add;
    std::vector<TopoDS_Shape> bodies;
    FaceNames names;
    std::vector<size_t> steps;
};

/// What goes to the modeller of a body: the solids within one argument must not touch.
std::vector<TopoDS_Shape> toolsOf(const StepBody& b, Operation o) {
    if (!b.may_touch || o == Operation::intersect) return {b.shape};
    std::vector<TopoDS_Shape> r;
    for (TopExp_Explorer x(b.shape, TopAbs_SOLID); x.More(); x.Next()) r.push_back(x.Current());
    return r;
}

/// A body that a step made, for those that repeat it later.
struct Made {
    Operation operation;
    StepBody body;
};
using AllMade = std::shared_ptr<const std::vector<Made>>;

/// How far a build list has come.
struct State {
    Parts parts;
    Run run;                     ///< not yet given to the modeller
    std::vector<AllMade> bodies; ///< by step, in order; null for one without bodies of its own
    std::vector<StepReport> report;
};

} // namespace

/// What a build left behind after each of its steps.
class KeptSteps {
  public:
    std::vector<Step> steps;
    std::vector<State> after;        ///< by step
    std::map<size_t, State> settled; ///< by number of steps: with nothing left to be given to the modeller
};

namespace {

/// A build list while it is being worked through.
class Builder {
  public:
    Builder(const Figure& f, const AreaSets& areas, const std::vector<Step>& steps, State from,
            const Progress& progress)
        : f_(f), areas_(areas), steps_(steps), progress_(progress), parts_(std::move(from.parts)),
          run_(std::move(from.run)), bodies_(std::move(from.bodies)), report_(std::move(from.report)) {}

    /// How many steps are done.
    size_t done() const { return report_.size(); }
    State state() const { return {parts_, run_, bodies_, report_}; }
    /// Gives the modeller what is left for it, and joins everything.
    void settle() {
        flush();
        const auto whole = guarded<TopoDS_Shape>([&] { return parts_.whole(progress_); });
        if (!whole && !report_.empty())
            report_.back().ok = false, report_.back().message = whole.error().message;
    }

    void step(size_t i, const NumberSource& numbers) {
        report_.push_back({steps_[i].name, describe(steps_[i]), false, {}, {}, {}});
        bodies_.emplace_back();
        if (steps_[i].off) {
            report_.back().ok = true, report_.back().message = "switched off";
            return;
        }
        if (i >= builtSteps(steps_)) {
            report_.back().ok = true, report_.back().message = "not built: the list stops before it";
            return;
        }
        const auto s = evaluated(steps_[i], numbers);
        const auto done = s ? made(i, *s) : Result<void>(tl::make_unexpected(s.error()));
        if (!done) report_[i].ok = false, report_[i].message = done.error().message;
    }

    /// Of a list that has been settled.
    BuildResult result(Measuring measuring) {
        BuildResult r;
        r.shape = parts_.settled();
        if (!r.shape.IsNull()) {
            r.faces = parts_.names().ofAll(r.shape);
            r.measure = measured(r.shape, measuring, progress_);
        }
        r.steps = report_;
        return r;
    }

  private:
    /// Does a step, or puts it with those that go to the modeller together.
    Result<void> made(size_t i, const Step& s) {
        if (const auto missing = missingIn(s)) return failure(ErrorCode::impossible, *missing);
        const int index = static_cast<int>(i);
        if (beginsAtSolid(s)) {
            flush();
            auto body = guarded<StepBody>([&] { return holed(f_, s, index, parts_.whole(progress_)); });
            return body ? take(i, s.operation, std::move(*body)) : tl::make_unexpected(body.error());
        }
        if (hasOwnBody(s.kind)) {
            auto body = stepBody(f_, areas_, s, index);
            return body ? take(i, s.operation, std::move(*body)) : tl::make_unexpected(body.error());
        }
        flush();
        if (parts_.empty()) return failure(ErrorCode::impossible, "there is nothing yet to work on");
        if (s.kind == StepKind::rib || standsOnFaces(s.kind)) {
            const bool rib = s.kind == StepKind::rib;
            auto body = guarded<StepBody>([&] {
                return rib ? ribbed(f_, s, index, parts_.whole(progress_))
                           : onFaces(f_, s, index, parts_.whole(progress_));
            });
            return body ? take(i, rib ? Operation::add : s.operation, std::move(*body))
                        : tl::make_unexpected(body.error());
        }
        const auto done = guarded<Parts>([&]() -> Result<Parts> {
            Parts next = parts_;
            const auto changed = s.kind == StepKind::mirror || s.kind == StepKind::pattern
                                     ? repeat(i, s, next)
                                 : s.kind == StepKind::tilt ? tilt(i, s, next)
                                                            : rework(i, s, next);
            if (!changed) return tl::make_unexpected(changed.error());
            return next;
        });
        if (!done) return tl::make_unexpected(done.error());
        parts_ = *done;
        report_[i].ok = true;
        return {};
    }

    Result<void> take(size_t i, Operation o, StepBody body) {
        report_[i].message = body.told;
        report_[i].low = body.low, report_[i].high = body.high;
        if (o != run_.operation) flush();
        if (o != Operation::add && parts_.empty() && run_.bodies.empty())
            return failure(ErrorCode::impossible, fmt::format("there is nothing yet to {}", nameOf(o)));
        run_.operation = o;
        for (const TopoDS_Shape& tool : toolsOf(body, o)) run_.bodies.push_back(tool);
        run_.names.take(body.names);
        run_.steps.push_back(i);
        std::vector<Made> one;
        one.push_back({o, std::move(body)});
        keep(i, std::move(one));
        return {};
    }

    void flush() {
        if (run_.bodies.empty()) return;
        const double before = parts_.loosened();
        const auto done = guarded<Parts>([&] {
            Parts next = parts_;
            next.apply(run_.operation, run_.bodies, run_.names, progress_);
            return next;
        });
        if (done) parts_ = *done;
        for (size_t i : run_.steps) {
            report_[i].ok = done.has_value();
            if (!done) report_[i].message = done.error().message;
            if (done && done->empty()) report_[i].message = "nothing of the solid is left";
            if (done && done->loosened() > before)
                report_[i].message = fmt::format("held only with a tolerance of {:.2g} mm", done->loosened());
        }
        run_ = {};
    }

    /// A step that changes the solid that is there.
    Result<void> rework(size_t i, const Step& s, Parts& next) {
        const int index = static_cast<int>(i);
        const TopoDS_Shape whole = next.whole(progress_);
        const auto shape = s.kind == StepKind::shell
                               ? shelled(f_, s, index, whole, next.names())
                               : edged(f_, s, index, whole, stepsNamed({s.edges.step}, i), next.names());
        if (!shape) return tl::make_unexpected(shape.error());
        if (!isSound(*shape)) return failure(ErrorCode::impossible, "what comes of it is no sound solid");
        next.replace(*shape);
        return {};
    }

    void keep(size_t i, std::vector<Made> made) {
        bodies_[i] = std::make_shared<const std::vector<Made>>(std::move(made));
    }

    /// Gives the modeller a body at once.
    void put(const Made& m, Parts& next) const {
        next.apply(m.operation, toolsOf(m.body, m.operation), m.body.names, progress_);
    }

    Result<void> tilt(size_t i, const Step& s, Parts& next) {
        auto bodies = tilted(f_, s, static_cast<int>(i), next.whole(progress_));
        if (!bodies) return tl::make_unexpected(bodies.error());
        std::vector<Made> made;
        if (!bodies->added.shape.IsNull()) made.push_back({Operation::add, std::move(bodies->added)});
        if (!bodies->taken.shape.IsNull()) made.push_back({Operation::cut, std::move(bodies->taken)});
        for (const Made& m : made) put(m, next);
        keep(i, std::move(made));
        return {};
    }

    Result<void> repeat(size_t i, const Step& s, Parts& next) {
        const int index = static_cast<int>(i);
        const auto places = copiesOf(f_, s);
        if (!places) return tl::make_unexpected(places.error());
        std::vector<Made> made;
        if (s.of.empty()) {
            const TopoDS_Shape whole = next.whole(progress_);
            for (const gp_Trsf& to : *places) {
                made.push_back({Operation::add, copied(whole, next.names(), to, index)});
                put(made.back(), next);
            }
            keep(i, std::move(made));
            return {};
        }
        for (const std::string& name : s.of) {
            const std::vector<int> found = stepsNamed({name}, i);
            if (found.empty())
                return failure(ErrorCode::impossible,
                               fmt::format("there is no step \"{}\" before this one", name));
            for (int k : found) {
                const AllMade originals = bodies_[static_cast<size_t>(k)];
                if (!originals)
                    return failure(ErrorCode::impossible,
                                   fmt::format("\"{}\" has no body of its own that could be repeated", name));
                for (const Made& original : *originals) repeatOne(original, *places, index, next, made);
            }
        }
        keep(i, std::move(made));
        return {};
    }

    /// All copies of a body go to the modeller together.
    void repeatOne(const Made& original, const std::vector<gp_Trsf>& places, int index, Parts& next,
                   std::vector<Made>& made) const {
        std::vector<TopoDS_Shape> copies;
        FaceNames names;
        for (const gp_Trsf& to : places) {
            StepBody copy = copied(original.body.shape, original.body.names, to, index);
            copy.may_touch = original.body.may_touch;
            for (const TopoDS_Shape& tool : toolsOf(copy, original.operation)) copies.push_back(tool);
            names.take(copy.names);
            made.push_back({original.operation, std::move(copy)});
        }
        next.apply(original.operation, copies, names, progress_);
    }

    /// Steps before one that have one of the names.
    std::vector<int> stepsNamed(const std::vector<std::string>& names, size_t before) const {
        std::vector<int> r;
        for (size_t k = 0; k < before; ++k)
            if (!steps_[k].name.empty() && std::ranges::find(names, steps_[k].name) != names.end())
                r.push_back(static_cast<int>(k));
        return r;
    }

    const Figure& f_;
    const AreaSets& areas_;
    const std::vector<Step>& steps_;
    const Progress& progress_;
    Parts parts_;
    Run run_;
    std::vector<AllMade> bodies_;
    std::vector<StepReport> report_;
};

} // namespace

Result<Step> evaluated(Step s, const NumberSource& numbers) {
    for (StepNumber* n : numbersOf(s)) {
        if (n->formula.empty()) continue;
        if (!numbers)
            return failure(ErrorCode::impossible,
                           fmt::format("\"{}\" needs the numbers of a sheet", n->formula));
        const auto value = numbers(n->formula);
        if (!value) return tl::make_unexpected(value.error());
        n->value = *value;
    }
    return s;
}

namespace {

/// With how many equal steps both lists begin.
size_t inCommon(const std::vector<Step>& a, const std::vector<Step>& b) {
    return static_cast<size_t>(std::ranges::mismatch(a, b).in1 - a.begin());
}

/// Where a list may begin: as far into an earlier one as both are alike.
State beginning(const Figure& f, const KeptSteps* before, size_t alike) {
    if (!before || alike == 0) return {Parts(f.size), {}, {}, {}};
    const auto whole = before->settled.find(alike);
    return whole != before->settled.end() ? whole->second : before->after[alike - 1];
}

} // namespace

BuildResult build(const Figure& f, const AreaSets& areas, const std::vector<Step>& steps, Progress& progress,
                  const NumberSource& numbers, const BuildResult* before, Measuring measuring) {
    if (steps.empty()) return {};
    const KeptSteps* earlier = before ? before->kept.get() : nullptr;
    const size_t alike = earlier ? inCommon(steps, earlier->steps) : 0;
    Builder b(f, areas, steps, beginning(f, earlier, alike), progress);
    auto kept = std::make_shared<KeptSteps>();
    kept->steps = steps;
    if (alike > 0)
        kept->after.assign(earlier->after.begin(), earlier->after.begin() + static_cast<long>(alike));
    const auto keepSettled = [&](size_t n) { kept->settled.emplace(n, b.state()); };
    for (size_t i = b.done(); i < steps.size(); ++i) {
        progress.report(static_cast<double>(i) / static_cast<double>(steps.size()), "Building the solid");
        if (progress.cancelled()) return {};
        // Whoever builds by hand is at work on the last step: what lies before it is joined beforehand, so
        // that a change of that step has nothing else to do.
        if (i + 1 == steps.size() && measuring == Measuring::fine) b.settle(), keepSettled(i);
        b.step(i, numbers);
        kept->after.push_back(b.state());
    }
    if (progress.cancelled()) return {};
    b.settle();
    if (progress.cancelled()) return {};
    keepSettled(steps.size());
    BuildResult r = b.result(measuring);
    if (progress.cancelled()) return {};
    r.kept = std::move(kept);
    return r;
}

} // namespace prism
