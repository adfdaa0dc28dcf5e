#include "core/diagnosing/known_solids.h"
#include "core/diagnosing/repairing.h"
#include "core/diagnosing/trial.h"
#include "support/diagnosed.h"

using namespace prism;
using namespace prism::test;

// Which of several repairs is the likeliest, what is kept of solids that were looked for, and which repairs
// are taken together.

namespace {

Finding finding(Severity s, const std::string& kind = "position_mismatch") {
    Finding f;
    f.severity = s, f.kind = kind;
    return f;
}

Trial trial(const std::string& repair, std::map<std::string, double> numbers = {},
            std::optional<Role> role = {}) {
    Trial t;
    t.finding = finding(Severity::error);
    t.finding.numbers = std::move(numbers);
    t.finding.remedies = {{repair, "words", "", {}}};
    t.role = role;
    return t;
}

/// Whether the first is likelier than the second.
bool before(const Trial& a, const Trial& b) {
    return rank(a) < rank(b);
}

} // namespace

TEST_CASE("what is found counts by how bad it is, notes only of lines without a counterpart") {
    CHECK(weightOf(finding(Severity::error)) == 2 * weightOf(finding(Severity::warning)));
    CHECK(weightOf(finding(Severity::note)) == 0);
    const double unmatched = weightOf(finding(Severity::note, "feature_unmatched"));
    CHECK(unmatched > 0);
    CHECK(unmatched < weightOf(finding(Severity::warning)));
    CHECK(weightOf(finding(Severity::error, "feature_unmatched")) == weightOf(finding(Severity::error)));
    CHECK(weightOf({finding(Severity::error), finding(Severity::warning), finding(Severity::note)}) ==
          weightOf(finding(Severity::error)) + weightOf(finding(Severity::warning)));
}

TEST_CASE("repairs of views, features and lines are tried out, a gap only where it keeps an area open") {
    for (const char* kind : {"scale_view", "mirror_view", "turn_view", "move_feature", "take_angle",
                             "add_line", "move_line", "delete_line", "draw_visible"}) {
        CAPTURE(kind);
        CHECK(triedOut(finding(Severity::note), {kind, "", "", {}}));
    }
    CHECK(triedOut(finding(Severity::error), {"close_gap", "", "", {}}));
    CHECK_FALSE(triedOut(finding(Severity::warning), {"close_gap", "", "", {}}));
    CHECK_FALSE(triedOut(finding(Severity::error), {"believe_text", "", "", {}}));
    for (const auto& [kind, one, solid] : {std::tuple{"add_line", true, true},
                                           {"move_line", true, true},
                                           {"delete_line", true, true},
                                           {"draw_visible", true, true},
                                           {"take_angle", false, true},
                                           {"move_feature", false, false},
                                           {"scale_view", false, false}}) {
        CAPTURE(kind);
        CHECK(ofOneLine({kind, "", "", {}}) == one);
        CHECK(toldBySolid({kind, "", "", {}}) == solid);
    }
}

TEST_CASE("ends that meet nothing, and outlines drawn hidden, are explained by the repair that mends them") {
    Trial line = trial("add_line", {{"ends", 2}});
    line.weight = 8;
    CHECK(unexplained(line) == 6);
    Trial none = trial("add_line");
    none.weight = 8;
    CHECK(unexplained(none) == 8);
    Trial hidden = trial("draw_visible", {{"ends", 1}});
    hidden.weight = 8;
    CHECK(unexplained(hidden) == 6);
}

TEST_CASE("among repairs that leave as little, the one that does least is the likeliest") {
    const auto moved = [](double shift, double images = 0, size_t lines = 1, size_t texts = 0) {
        std::map<std::string, double> numbers{{"shift", shift}};
        if (images > 0) numbers["images"] = images;
        Trial t = trial("move_feature", numbers);
        for (size_t i = 0; i < lines; ++i)
            t.finding.remedies[0].change.lines.push_back({MarkedLine::Kind::remove, std::to_string(i), {}});
        for (size_t i = 0; i < texts; ++i)
            t.finding.remedies[0].change.corrected.push_back({std::to_string(i), "5", std::nullopt});
        return t;
    };
    CHECK(before(moved(2), moved(3)));
    CHECK(before(moved(3, 2), moved(2)));             // two lines get their mirror image
    CHECK(before(moved(2, 0, 1), moved(2, 0, 4)));    // fewer lines
    CHECK(before(moved(2, 0, 4), moved(2, 0, 1, 1))); // without writing a dimension anew
    CHECK(before(moved(2, 0, 1, 1), moved(2.5, 0, 1)));
    // A line that meets more ends; one that is there already before a new one; any that meets some first.
    CHECK(before(trial("add_line", {{"ends", 2}}), trial("add_line", {{"ends", 1}})));
    CHECK(before(trial("move_line", {{"ends", 1}}), trial("add_line", {{"ends", 1}})));
    CHECK(before(trial("add_line", {{"ends", 1}}), moved(0.1)));
    CHECK(before(moved(50), trial("add_line")));
    CHECK(before(trial("draw_visible"), trial("add_line", {{"ends", 9}})));
    // A view beside is likelier wrong than the one it is drawn to.
    for (const Role side : {Role::left, Role::right, Role::rear}) {
        CHECK(before(trial("scale_view", {}, side), trial("scale_view", {}, Role::top)));
        CHECK(before(trial("scale_view", {}, side), trial("scale_view", {}, Role::front)));
    }
    CHECK(before(trial("mirror_view", {}, Role::top), trial("mirror_view", {}, Role::front)));
    CHECK(rank(trial("mirror_view")) == rank(trial("mirror_view", {}, Role::front)));
    // The angle is in doubt only where it is a guess.
    const auto angle = [](bool stated) {
        Trial t = trial("take_angle");
        auto m = std::make_shared<Model>();
        m->views.projection.stated = stated ? std::optional(Convention::third) : std::nullopt;
        t.model = m;
        return t;
    };
    CHECK(before(angle(false), angle(true)));
    CHECK(before(trial("mirror_view", {}, Role::left), angle(true)));
    CHECK(before(angle(true), trial("mirror_view", {}, Role::top)));
}

TEST_CASE("a solid that was looked for is known again for the same figure, in the same way, for a while") {
    KnownSolids known;
    const auto search = [](double scale, Effort effort = Effort::quick, LineKinds kinds = LineKinds::told,
                           int limit = 100) {
        Choices c;
        c.views.scale = scale;
        return KnownSolids::Search{c, effort, kinds, limit};
    };
    CHECK(known.of(search(1)) == nullptr);
    CHECK(known.keep(search(1), {std::nullopt, 7, true}).work == 7);
    const auto* again = known.of(search(1));
    REQUIRE(again);
    CHECK(again->work == 7);
    CHECK(again->exhausted);
    CHECK(known.of(search(2)) == nullptr);
    CHECK(known.of(search(1, Effort::exact)) == nullptr);
    CHECK(known.of(search(1, Effort::quick, LineKinds::alike)) == nullptr);
    CHECK(known.of(search(1, Effort::quick, LineKinds::told, 101)) == nullptr);
    CHECK(known.asked() == 6);
    CHECK(known.known() == 1);
    for (int i = 0; i < 47; ++i) known.keep(search(100 + i), {std::nullopt, i, false});
    CHECK(known.of(search(1)));
    known.keep(search(99), {});
    CHECK(known.of(search(1)) == nullptr); // the oldest is forgotten
    REQUIRE(known.of(search(146)));
    CHECK(known.of(search(146))->work == 46);
}

TEST_CASE("first repairs are those of the checks; what a solid says of lines waits until none is left") {
    Diagnosis d;
    const auto add = [&](std::vector<std::string> repairs, bool from_proof, bool accepted = false) {
        Finding f = finding(Severity::error);
        for (const std::string& kind : repairs) f.remedies.push_back({kind, kind, "", {}});
        f.from_proof = from_proof;
        if (accepted) f.accepted = "meant so";
        d.findings.push_back(f);
    };
    const auto kinds = [&](const std::set<std::string>& only = {}) {
        std::vector<std::string> r;
        for (const auto& [f, remedy] : firstRemedies(d, only)) r.push_back(remedy->kind);
        return r;
    };
    using Kinds = std::vector<std::string>;
    add({"add_line"}, true);
    CHECK(kinds() == Kinds{"add_line"});
    add({"believe_text", "believe_drawing"}, false);
    add({}, false);
    add({"move_feature"}, false);
    add({"scale_view"}, false, true);
    CHECK(kinds() == Kinds{"believe_text", "move_feature"});
    CHECK(kinds({"believe_drawing"}) == Kinds{"believe_drawing"});
    CHECK(kinds({"add_line"}) == Kinds{"add_line"});
    CHECK(kinds({"scale_view"}).empty());
}
