#include "core/checking/about_entry.h"
#include "core/solving/elimination.h"

#include <fmt/format.h>
#include <set>

namespace prism::checking {
namespace {

int placesIn(const std::string& text) {
    const size_t dot = text.find_first_of(".,");
    int places = 0;
    if (dot != std::string::npos)
        while (dot + 1 + places < text.size() && isdigit(static_cast<unsigned char>(text[dot + 1 + places])))
            ++places;
    return places;
}

double roundingOf(const LedgerEntry& e, int places, double unit) {
    return 0.5001 * std::pow(10.0, -places) * (e.angular() ? 1 : unit);
}
/// Half of the last place that the text shows: what rounding explains.
double roundingOf(const LedgerEntry& e, double unit) {
    return roundingOf(e, placesIn(e.text), unit);
}

/// How many places texts have that are the plain measurement: zeros at their ends are mostly left away, so
/// that one without any is rounded as finely as the others.
class Written {
  public:
    explicit Written(const CheckInput& in) : in_(in) {
        for (const LedgerEntry& e : in.ledger.entries)
            if (!in.drawing.dimensions[static_cast<size_t>(e.dimension)].overridden)
                places(e) = std::max(places(e), placesIn(e.text));
    }
    /// Whether rounding does not explain what a text says.
    bool differs(const LedgerEntry& e) const {
        const int finest = std::max(placesIn(e.text), places(e));
        return std::abs(e.said - e.drawn) >
               roundingOf(e, finest, in_.views.unit.mm) + 10 * in_.figure.tolerances.same_model;
    }

    /// Whether all others of a sheet are as drawn, and what is drawn here is a size that could be written as
    /// they are: then the drawing was made with care, and to scale.
    bool alone(const LedgerEntry& e) const {
        constexpr int kOthers = 3;
        const auto& all = in_.ledger.entries;
        const double step = std::pow(10.0, -places(e)),
                     drawn = e.drawn / (e.angular() ? 1 : in_.views.unit.mm);
        return std::ssize(all) > kOthers &&
               std::abs(drawn - step * std::round(drawn / step)) <= 10 * in_.figure.tolerances.same_model &&
               std::ranges::none_of(all, [&](const LedgerEntry& o) { return &o != &e && differs(o); });
    }

  private:
    int& places(const LedgerEntry& e) { return e.angular() ? angles_ : lengths_; }
    int places(const LedgerEntry& e) const { return e.angular() ? angles_ : lengths_; }
    const CheckInput& in_;
    int lengths_ = 0, angles_ = 0;
};

/// Whether another view, or a circle's edges seen from the side, has what a dimension measures as drawn.
bool drawnElsewhere(const CheckInput& in, const LedgerEntry& e) {
    const auto shownBy = [&](Axis axis, double value) {
        std::set<int> views;
        for (const Mark& m : in.figure.marks)
            if (m.axis == axis && std::abs(m.value - value) <= 4 * in.figure.tolerances.same_model)
                views.insert(m.view);
        return views.size();
    };
    if (e.along_axis && !e.low.empty() && !e.high.empty())
        return shownBy(e.axis, in.figure.value(e.low, in.figure.drawn)) > 1 &&
               shownBy(e.axis, in.figure.value(e.high, in.figure.drawn)) > 1;
    for (const Mark& m : in.figure.marks)
        if (m.view == e.view && m.terms.size() > 1 && m.curve >= 0)
            for (const Term& t : e.equation.terms)
                if (t.variable == in.figure.curves[static_cast<size_t>(m.curve)].radius &&
                    shownBy(m.axis, m.value) > 1)
                    return true;
    return false;
}

Remedy believeDrawing(const CheckInput& in, const LedgerEntry& e, std::string reason) {
    const Dimension& d = in.drawing.dimensions[static_cast<size_t>(e.dimension)];
    Change c;
    c.corrected = {{keyOf(d), textSaying(d, d.measured), std::nullopt}};
    return {"believe_drawing",
            fmt::format("Believe the drawing: {} reads {}", e.name, c.corrected[0].text.value()),
            std::move(reason), std::move(c)};
}

Remedy believeText(const CheckInput& in, const LedgerEntry& e, std::string reason) {
    Change c;
    c.numbers[e.name].value = e.said;
    return {"believe_text", fmt::format("Believe the text: the part is {} there", numberOf(e, e.said, in)),
            std::move(reason), std::move(c)};
}

/// The likelier of the two first: what several views show as drawn was hardly drawn wrong in all of them, nor
/// what is drawn to scale everywhere else; otherwise what is written holds before what is drawn.
std::vector<Remedy> believing(const CheckInput& in, const LedgerEntry& e, std::string against) {
    std::string text_why;
    if (against.empty() && drawnElsewhere(in, e)) against = "other views have the size that is drawn";
    if (against.empty()) text_why = "what is written holds before what is drawn";
    const bool drawing = !against.empty();
    std::vector<Remedy> r{believeDrawing(in, e, std::move(against))};
    if (e.state != EntryState::loose) r.push_back(believeText(in, e, std::move(text_why)));
    if (!drawing && r.size() > 1) std::swap(r[0], r[1]);
    return r;
}

/// The texts taken as equations. Which entries were said to be wrong here goes to `told`.
class Sums {
  public:
    Sums(const CheckInput& in, std::set<int>& told, std::vector<Finding>& out)
        : in_(in), entries_(in.ledger.entries), told_(told), out_(out) {
        int id = 0;
        for (const Equation& e : in.figure.equations)
            if (e.level != Level::weak && e.kind == EquationKind::linear)
                rows_.add(--id, e.terms, 0, 1, nullptr);
    }

    /// Entries that measure the same by the structure of the figure alone, with different texts.
    void disagreeing() {
        std::map<std::vector<int>, std::vector<int>> same; // by the unknowns of what is left of them
        std::vector<std::vector<Term>> left(entries_.size());
        for (size_t i = 0; i < entries_.size(); ++i) {
            if (!counts(entries_[i])) continue;
            left[i] = rows_.remainder(entries_[i].equation.terms);
            std::vector<int> key;
            for (const Term& t : left[i]) key.push_back(t.variable);
            if (!key.empty()) same[key].push_back(static_cast<int>(i));
        }
        for (const auto& [key, members] : same)
            for (size_t k = 1; k < members.size(); ++k)
                for (size_t j = 0; j < k; ++j)
                    if (alike(left[members[j]], left[members[k]]) && apart(members[j], members[k])) {
                        disagree(members[j], members[k]);
                        break;
                    }
    }

    /// Entries of which one is the sum of others, with texts that are not.
    void chains() {
        for (size_t i = 0; i < entries_.size(); ++i) {
            const LedgerEntry& e = entries_[i];
            if (!counts(e) || told_.contains(static_cast<int>(i))) continue;
            std::vector<int> involved;
            const double rounding = 3 * roundingOf(e, in_.views.unit.mm) + 0.01;
            if (rows_.add(static_cast<int>(i), e.equation.terms, e.said - e.drawn, rounding, &involved) !=
                Elimination::Verdict::contradiction)
                continue;
            std::vector<int> members{static_cast<int>(i)};
            for (int k : involved)
                if (k >= 0) members.push_back(k);
            chain(members);
        }
    }

  private:
    static bool counts(const LedgerEntry& e) {
        return e.equation.kind == EquationKind::linear && !e.equation.terms.empty();
    }
    static bool alike(const std::vector<Term>& a, const std::vector<Term>& b) {
        return std::ranges::equal(a, b, [](const Term& s, const Term& t) {
            return s.variable == t.variable && std::abs(s.factor - t.factor) < 1e-6;
        });
    }
    bool apart(int i, int j) const {
        const LedgerEntry &a = entries_[i], &b = entries_[j];
        // Their sense may differ, and one may be half the other: what counts is how far each is off.
        const double share = std::abs(b.drawn) > 1e-9 ? a.drawn / b.drawn : 1;
        return std::abs((a.said - a.drawn) - share * (b.said - b.drawn)) >
               roundingOf(a, in_.views.unit.mm) + share * roundingOf(b, in_.views.unit.mm) + 0.01;
    }
    void disagree(int i, int j) {
        // The one that is off from the drawing is the likelier to be wrong.
        const double offI = std::abs(entries_[i].said - entries_[i].drawn),
                     offJ = std::abs(entries_[j].said - entries_[j].drawn);
        if (offI > offJ) std::swap(i, j);
        if (told_.contains(j)) return;
        const LedgerEntry &right = entries_[i], &wrong = entries_[j];
        Finding f = about({j, i}, "dimensions_disagree");
        f.message = fmt::format("The same size is dimensioned {} by {} and {} by {}; {} is drawn", right.text,
                                right.name, wrong.text, wrong.name, numberOf(wrong, wrong.drawn, in_));
        f.numbers = {{"first", right.said},
                     {"second", wrong.said},
                     {"drawn", wrong.drawn},
                     {"difference", std::abs(wrong.said - right.said)}};
        f.remedies = believing(in_, wrong,
                               std::min(offI, offJ) <= roundingOf(right, in_.views.unit.mm) + 0.01
                                   ? fmt::format("{} and the drawing agree", right.name)
                                   : "");
        tell(j, std::move(f));
    }
    void chain(const std::vector<int>& members) {
        int worst = members.front();
        double sum = 0, total = 0, drawnTotal = 0;
        for (int k : members) {
            const LedgerEntry& e = entries_[k];
            if (std::abs(e.said - e.drawn) > std::abs(entries_[worst].said - entries_[worst].drawn))
                worst = k;
            sum += e.said;
            if (e.drawn > drawnTotal) drawnTotal = e.drawn, total = e.said;
        }
        const LedgerEntry& w = entries_[worst];
        if (told_.contains(worst)) return;
        Finding f = about(members, "dimension_chain_open");
        std::vector<std::string> texts;
        for (int k : members) texts.push_back(fmt::format("{} ({})", entries_[k].name, entries_[k].text));
        const double off = w.said - w.drawn;
        f.message =
            fmt::format("The texts of a chain do not add up: {}. {} fits worst: it says {}, {} is drawn",
                        fmt::join(texts, ", "), w.name, w.text, numberOf(w, w.drawn, in_));
        f.numbers = {{"difference", std::abs(off)},
                     {"said", w.said},
                     {"drawn", w.drawn},
                     {"total", total},
                     {"sum", sum - total}};
        f.remedies = believing(in_, w, "with the size that is drawn the chain adds up");
        tell(worst, std::move(f));
    }
    Finding about(const std::vector<int>& members, const char* kind) const {
        Finding f = aboutEntry(in_, entries_[members.front()], kind, Severity::error, {});
        for (size_t k = 1; k < members.size(); ++k) {
            const LedgerEntry& e = entries_[members[k]];
            f.handles.push_back(e.handle);
            if (std::ranges::find(f.views, e.view) == f.views.end()) f.views.push_back(e.view);
            f.at_sheet.push_back(in_.drawing.dimensions[static_cast<size_t>(e.dimension)].text_at);
        }
        return f;
    }
    void tell(int wrong, Finding f) {
        told_.insert(wrong);
        out_.push_back(std::move(f));
    }

    const CheckInput& in_;
    const std::vector<LedgerEntry>& entries_;
    std::set<int>& told_;
    std::vector<Finding>& out_;
    Elimination rows_;
};

/// Whether a text has the sign of a diameter at a radius, or the reverse.
bool hasOtherSign(const CheckInput& in, const LedgerEntry& e) {
    const bool across = e.kind == DimensionKind::diameter;
    if (!across && e.kind != DimensionKind::radius) return false;
    const std::string& text = in.drawing.dimensions[static_cast<size_t>(e.dimension)].text;
    const std::string sign = text.substr(0, text.find_first_of("0123456789"));
    const auto has = [&](const char* s) { return sign.find(s) != std::string::npos; };
    return across ? has("R") : has("\u00d8") || has("\u2300");
}

/// Whether what is drawn has the size that the text says in the other way: R12 at a diameter of 24.
bool sameSizeSo(const CheckInput& in, const LedgerEntry& e) {
    const double said = (e.kind == DimensionKind::diameter ? 2 : 0.5) * e.said;
    return std::abs(said - e.drawn) <=
           10 * in.figure.tolerances.same_model + 2 * roundingOf(e, in.views.unit.mm);
}

/// A text with the wrong sign: with the other one it would fit, or its number does.
Finding wrongSign(const CheckInput& in, const Written& written, const LedgerEntry& e) {
    const bool across = e.kind == DimensionKind::diameter;
    Finding f = aboutEntry(in, e, "dimension_sign_suspect", Severity::error, {});
    f.message = fmt::format("The dimension {} says {}, but a {} of {} is drawn there", e.name, e.text,
                            across ? "diameter" : "radius", numberOf(e, e.drawn, in));
    f.numbers = {{"said", (across ? 2 : 1) * e.said},
                 {"drawn", e.drawn},
                 {"diameter", across ? e.drawn : 2 * e.drawn}};
    f.remedies = {believeDrawing(in, e, written.differs(e) ? "" : "the number is that of the drawing")};
    return f;
}

/// Whether a dimension reaches over a break where the view is drawn shortened, and says more than is drawn.
bool overBreak(const CheckInput& in, const LedgerEntry& e) {
    const Dimension& d = in.drawing.dimensions[e.dimension];
    if (e.said <= e.drawn || (d.kind != DimensionKind::linear && d.kind != DimensionKind::aligned))
        return false;
    const Vec2 along = d.kind == DimensionKind::linear ? direction(d.angle) : normalized(d.p14 - d.p13);
    const double lo = std::min(dot(d.p13, along), dot(d.p14, along)),
                 hi = std::max(dot(d.p13, along), dot(d.p14, along));
    return std::ranges::any_of(in.sheet.repairs, [&](const Repair& r) {
        if (r.kind != "break_closed" || !r.on || r.entities.size() < 3) return false;
        const int view = in.views.view_of_entity[r.entities[2]];
        const double at = dot(r.at, along);
        return view == e.view && at > lo && at < hi;
    });
}

Finding textDiffers(const CheckInput& in, const Written& written, const LedgerEntry& e) {
    const double drawn = e.angular() ? e.drawn : e.drawn / in.views.unit.mm;
    const auto unit = e.angular() ? std::string("°") : in.views.unit.used;
    Finding f;
    if (overBreak(in, e)) {
        f = aboutEntry(
            in, e, "drawn_shortened", Severity::note,
            fmt::format("The view is shortened by a break: the dimension {} says {}, {:.3f} {} is drawn",
                        e.name, e.text, drawn, unit));
        f.repair = fmt::format("set {} to {} under Drive: the figure and the solid take the true length",
                               e.name, e.text);
    } else
        f = aboutEntry(
            in, e, "dimension_text_differs", Severity::error,
            fmt::format("The dimension {} says {} but {:.3f} {} is drawn", e.name, e.text, drawn, unit));
    f.numbers = {{"said", e.said}, {"drawn", e.drawn}, {"difference", std::abs(e.said - e.drawn)}};
    if (f.kind == "dimension_text_differs")
        f.remedies = believing(in, e, written.alone(e) ? "all other dimensions are as drawn" : "");
    return f;
}

/// Whether a dimension without a line of the part measures a circle that is drawn as a centre line, as that
/// on which the holes of a flange lie.
bool ofCentreCircle(const CheckInput& in, const LedgerEntry& e) {
    const bool across = e.kind == DimensionKind::diameter;
    if ((!across && e.kind != DimensionKind::radius) || e.view < 0) return false;
    const View& v = in.views.views[static_cast<size_t>(e.view)];
    const double radius = across ? 0.5 * e.drawn : e.drawn;
    return std::ranges::any_of(v.centre_lines, [&](int line) {
        return std::ranges::any_of(in.drawing.entities[static_cast<size_t>(line)].curves,
                                   [&](const Curve& c) {
                                       const auto* a = std::get_if<Arc>(&c);
                                       return a && std::abs(a->radius * v.mm_per_sheet - radius) <=
                                                       10 * in.figure.tolerances.same_model;
                                   });
    });
}

Finding looseDimension(const CheckInput& in, const LedgerEntry& e) {
    if (ofCentreCircle(in, e))
        return aboutEntry(
            in, e, "dimension_loose", Severity::note,
            fmt::format("The dimension {} ({}) measures a centre line: it drives nothing", e.name, e.text));
    // That a section, an auxiliary view or a detail has no place is told of the view itself.
    const Role role = in.views.views[static_cast<size_t>(e.view)].role;
    const bool told = !in.figure.viewById(e.view) && role != Role::unassigned && !isPrincipal(role);
    return aboutEntry(in, e, "dimension_loose", told ? Severity::note : Severity::warning,
                      fmt::format("The dimension {} ({}) is loose: {}", e.name, e.text, e.why));
}

} // namespace

Finding aboutEntry(const CheckInput& in, const LedgerEntry& e, const char* kind, Severity s,
                   std::string message) {
    Finding f;
    f.kind = kind, f.severity = s, f.message = std::move(message);
    f.views = {e.view};
    f.handles = {e.handle};
    f.at_sheet = {in.drawing.dimensions[e.dimension].text_at};
    return f;
}

std::string numberOf(const LedgerEntry& e, double value, const CheckInput& in) {
    return e.angular() ? fmt::format("{:.6g}°", value)
                       : fmt::format("{:.6g} {}", value / in.views.unit.mm, in.views.unit.used);
}

void dimensions(const CheckInput& in, std::vector<Finding>& out) {
    std::set<int> told;
    Sums sums(in, told, out);
    sums.disagreeing();
    sums.chains();
    const Written written(in);
    for (size_t i = 0; i < in.ledger.entries.size(); ++i) {
        const LedgerEntry& e = in.ledger.entries[i];
        if (e.state == EntryState::loose) out.push_back(looseDimension(in, e));
        if (hasOtherSign(in, e)) {
            if (!sameSizeSo(in, e)) out.push_back(wrongSign(in, written, e));
        } else if (!told.contains(static_cast<int>(i)) && written.differs(e))
            out.push_back(textDiffers(in, written, e));
    }
}

} // namespace prism::checking
