#include "support/bracket.h"
#include "support/samples.h"

#include "core/building/combine.h"
#include "core/building/kernel.h"
#include "core/building/stoppable.h"
#include "core/project/propose_for.h"

#include <BRepPrimAPI_MakeCylinder.hxx>
#include <future>
#include <gp_Ax2.hxx>

using namespace prism;
using namespace prism::test;

namespace {

/// Stops the work the n-th time it asks whether to go on.
class StopsAt final : public Progress {
  public:
    explicit StopsAt(int n) : most_(n), left_(n) {}
    void report(double, std::string_view) override {}
    bool cancelled() const override { return --left_ < 0; }
    bool reached() const { return left_ < 0; }
    int asked() const { return most_ - left_; }

  private:
    int most_;
    mutable int left_;
};

} // namespace

TEST_CASE("a model that is stopped anywhere is not shown in part") {
    const Document d = opened(demo("roller-bracket.dxf"));
    Choices c = d.choices();
    c.steps = bracketSteps();
    int stopped = 0;
    for (int n = 0; n < 400; n = n < 20 ? n + 1 : n * 3 / 2) {
        StopsAt stop(n);
        const auto m = computeModel(d.source(), c, nullptr, {}, stop);
        if (!stop.reached()) {
            REQUIRE(m);
            CHECK((*m)->build.ok());
            break;
        }
        ++stopped;
        REQUIRE_FALSE(m);
        CHECK(m.error().code == ErrorCode::cancelled);
    }
    CHECK(stopped > 10); // it asks often
}

TEST_CASE("a model that is stopped while the proof's findings are told is not shown without them") {
    NoProgress quiet;
    Document d = opened(demo("roller-bracket.dxf"));
    Choices c = d.choices();
    c.steps = bracketSteps();
    // One of its hidden lines is drawn as a visible one: whether the solid has it hidden is looked up.
    const auto& entities = d.model().drawing->entities;
    const auto hidden = std::ranges::find_if(entities, [&](const Entity& e) {
        return d.model().sheet.entity_roles[static_cast<size_t>(e.id)] == LineRole::hidden &&
               e.curves.size() == 1;
    });
    REQUIRE(hidden != entities.end());
    c.marks.lines.push_back({MarkedLine::Kind::remove, keyOf(*hidden), {}});
    MarkedLine added{MarkedLine::Kind::add, freshName(c.marks), {hidden->curves[0]}};
    added.role = LineRole::outline;
    c.marks.lines.push_back(added);
    const auto whole = computeModel(d.source(), c, nullptr, {}, quiet);
    REQUIRE(whole);
    REQUIRE((*whole)->proof);
    REQUIRE_FALSE((*whole)->proof->clean());
    const auto fromProof = [](const Model& m) {
        return std::ranges::count_if(m.findings, [](const Finding& f) { return f.from_proof; });
    };
    CHECK(fromProof(**whole) > 0);
    StopsAt never(1 << 30);
    REQUIRE(computeModel(d.source(), c, nullptr, {}, never));
    int stopped = 0;
    for (int n = never.asked() + 5; n > never.asked() - 60; n -= 2) {
        StopsAt stop(n);
        const auto m = computeModel(d.source(), c, nullptr, {}, stop);
        CHECK(m.has_value() == !stop.reached());
        if (m) CHECK(fromProof(**m) == fromProof(**whole));
        stopped += !m;
    }
    CHECK(stopped > 10);
}

TEST_CASE("a proposal that is stopped gives nothing") {
    const Document d = opened(demo("roller-bracket.dxf"));
    for (int n : {0, 1, 5, 50, 500, 5000}) {
        StopsAt stop(n);
        const auto p = proposeFor(d.model(), stop);
        if (!stop.reached()) break;
        REQUIRE_FALSE(p);
        CHECK(p.error().code == ErrorCode::cancelled);
    }
}

TEST_CASE("a model goes as far as it is asked for, and is completed without reading again") {
    NoProgress quiet;
    const auto d = Document::open(demo("roller-bracket.dxf"), {}, quiet, Stage::views);
    REQUIRE(d);
    CHECK(d->model().has(Stage::views));
    CHECK_FALSE(d->model().has(Stage::figure));
    CHECK(d->model().views.views.size() == 3);
    CHECK(d->model().figure.curves.empty());
    const auto whole = computeModel(d->source(), d->choices(), d->sharedModel(), d->choices(), quiet);
    REQUIRE(whole);
    CHECK((*whole)->source == d->model().source);
    CHECK((*whole)->drawing == d->model().drawing);
    const Document at_once = opened(demo("roller-bracket.dxf"));
    CHECK((*whole)->figure.now == at_once.model().figure.now);
    CHECK((*whole)->findings.size() == at_once.model().findings.size());
}

TEST_CASE("a history of many steps keeps the last few models and computes the others again") {
    NoProgress quiet;
    Document d = opened(demo("roller-bracket.dxf"));
    const int steps = static_cast<int>(Document::kKeptModels) + 4;
    for (int i = 1; i <= steps; ++i) {
        Choices c = d.choices();
        c.repairs.gap = 0.1 * i;
        REQUIRE(d.apply("Gap", c, quiet, Stage::views));
    }
    int kept = 0;
    for (int i = steps; i > 0; --i) {
        REQUIRE(d.beforeThis());
        kept += d.beforeThis()->model != nullptr;
        REQUIRE(d.undo(quiet));
        CHECK(d.choices().repairs.gap.value_or(0) == Approx(0.1 * (i - 1)));
        CHECK(d.model().has(Stage::views));
    }
    CHECK(kept == static_cast<int>(Document::kKeptModels));
    for (int i = 1; i <= steps; ++i) REQUIRE(d.redo(quiet));
    CHECK(d.choices().repairs.gap == Approx(0.1 * steps));
    CHECK_FALSE(d.canRedo());
}

TEST_CASE("the modeller asks whether to go on while it joins bodies, and stops there") {
    // Two pipes that meet square: one join, which alone takes most of the time.
    struct Counting final : Progress {
        void report(double, std::string_view) override {}
        bool cancelled() const override { return ++asked, false; }
        mutable int asked = 0;
    } counting;
    const auto bar = [](gp_Dir along) {
        return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(0, 0, 0), along), 10, 60).Shape();
    };
    building::Parts parts(100);
    parts.apply(Operation::add, {bar(gp_Dir(0, 0, 1))}, {}, counting);
    parts.apply(Operation::add, {bar(gp_Dir(1, 0, 0))}, {}, counting);
    building::Parts again = parts;
    counting.asked = 0;
    CHECK_FALSE(parts.whole(counting).IsNull());
    const int all = counting.asked;
    CHECK(all > 20);
    for (const int n : {0, 5, all / 2, all - 1}) {
        building::Parts stopped = again;
        StopsAt stop(n);
        CHECK_THROWS_AS(stopped.whole(stop), KernelError);
        CHECK(stopped.settled().IsNull());
    }
}

TEST_CASE("work that cannot be stopped is left to end by itself") {
    std::promise<void> go, gone;
    StopsAt stop(3); // it begins, and is waited for a while
    const auto r = stoppable<int>(stop, [let = go.get_future().share(), &gone] {
        let.wait();
        gone.set_value();
        return 7;
    });
    REQUIRE_FALSE(r);
    CHECK(r.error().code == ErrorCode::cancelled);
    auto ended = gone.get_future();
    CHECK(ended.wait_for(std::chrono::seconds(0)) == std::future_status::timeout); // still at it
    go.set_value();
    ended.wait(); // and comes to its end
}

TEST_CASE("what work gives or throws comes through from the thread that does it") {
    NoProgress quiet;
    CHECK(stoppable<int>(quiet, [] { return 7; }) == 7);
    const auto refused =
        stoppable<int>(quiet, []() -> Result<int> { return failure(ErrorCode::usage, "not that"); });
    REQUIRE_FALSE(refused);
    CHECK(refused.error().message == "not that");
    const auto thrown = stoppable<int>(quiet, []() -> int { throw KernelError("it broke"); });
    REQUIRE_FALSE(thrown);
    CHECK(thrown.error().message == "it broke");
}

TEST_CASE("looking at a solid and measuring it give nothing once a stop is asked for") {
    const TopoDS_Shape pipe = BRepPrimAPI_MakeCylinder(10, 60).Shape();
    const ViewFrame front{{1, 0, 0}, {0, 0, 1}, {0, 1, 0}, {}};
    NoProgress quiet;
    CHECK(projected(pipe, front, quiet)->size() >= 4);
    CHECK(measured(pipe).volume == Approx(6000 * kPi));
    StopsAt stop(0);
    const auto lines = projected(pipe, front, stop);
    REQUIRE_FALSE(lines);
    CHECK(lines.error().code == ErrorCode::cancelled);
    CHECK_FALSE(measured(pipe, Measuring::fine, stop).valid);
}
