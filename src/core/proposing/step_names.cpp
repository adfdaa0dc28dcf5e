#include "core/proposing/step_names.h"

#include "core/building/reaches.h"

#include <fmt/format.h>

namespace prism {
namespace {

/// What bounds the areas of a step taken together.
struct Border {
    std::vector<Curve> pieces;
    Box2 box;
    bool open = false; ///< some of it is the outline of the view
};

class Naming {
  public:
    Naming(const Figure& f, const std::vector<ClosedArea>& areas) : f_(f), areas_(areas) {}

    std::string nameOf(const Step& s, bool first) const {
        if (s.kind != StepKind::extrude) return prism::nameOf(s.kind);
        if (s.operation == Operation::intersect) return fmt::format("{} outline", prism::nameOf(s.view));
        const FigureView* v = f_.viewNamed(s.view);
        if (!v) return prism::nameOf(s.operation);
        const Border border = borderOf(s, v->view);
        const bool whole = s.reach == Reach::through;
        const auto arcs = static_cast<size_t>(std::ranges::count_if(
            border.pieces, [](const Curve& c) { return std::holds_alternative<Arc>(c); }));
        const bool round = arcs == border.pieces.size() && aboutOneCentre(border.pieces);
        if (s.operation == Operation::add)
            return first                  ? "base"
                   : round                ? "boss"
                   : isRib(s, *v, border) ? "rib"
                   : arcs > 0             ? "lug"
                                          : "block";
        if (round) return whole ? "bore" : "blind bore";
        if (border.open) return crosses(border.box, v->box) ? "slot" : "notch";
        if (arcs == 2 && border.pieces.size() == 4) return "slot";
        return whole ? "opening" : "pocket";
    }

  private:
    /// Whether it is a thin body with a slanted edge.
    bool isRib(const Step& s, const FigureView& v, const Border& border) const {
        constexpr double kThin = 0.5; // of its smaller side
        const bool slanted = std::ranges::any_of(border.pieces, [](const Curve& c) {
            const auto* l = std::get_if<Segment>(&c);
            return l && std::min(std::abs(l->a.x - l->b.x), std::abs(l->a.y - l->b.y)) > 1e-6 * lengthOf(c);
        });
        if (!slanted || !v.square) return false;
        const auto reach = building::reachOf(f_, s, v, s.to);
        return reach && reach->hi - reach->lo <= kThin * std::min(border.box.width(), border.box.height());
    }
    Border borderOf(const Step& s, int view) const {
        std::vector<const ClosedArea*> mine, others;
        for (const ClosedArea& a : areas_) {
            if (a.view != view) continue;
            const bool picked = std::ranges::find(s.areas, a.seed) != s.areas.end();
            (picked ? mine : others).push_back(&a);
        }
        const double tol = 2 * f_.tolerances.same_model;
        Border r;
        for (const ClosedArea* a : mine) r.box.add(a->box);
        for (const ClosedArea* a : mine)
            for (const AreaEdge& e : a->outer) {
                const Vec2 middle = pointAt(e.shape, 0.5); // where lines cross, areas share whole pieces
                if (std::ranges::any_of(
                        mine, [&](const ClosedArea* o) { return o != a && o->onBorder(middle, tol); }))
                    continue;
                r.pieces.push_back(e.shape);
                r.open = r.open || std::ranges::none_of(
                                       others, [&](const ClosedArea* o) { return o->onBorder(middle, tol); });
            }
        return r;
    }
    bool aboutOneCentre(const std::vector<Curve>& pieces) const {
        const double tol = 2 * f_.tolerances.same_model;
        const auto* first = pieces.empty() ? nullptr : std::get_if<Arc>(&pieces.front());
        return first && std::ranges::all_of(pieces, [&](const Curve& c) {
                   const auto* a = std::get_if<Arc>(&c);
                   return a && distance(a->centre, first->centre) <= tol &&
                          std::abs(a->radius - first->radius) <= tol;
               });
    }
    /// Whether a box reaches from one side of the view to the other.
    bool crosses(const Box2& b, const Box2& view) const {
        const double tol = 2 * f_.tolerances.proof;
        return b.width() >= view.width() - tol || b.height() >= view.height() - tol;
    }

    const Figure& f_;
    const std::vector<ClosedArea>& areas_;
};

} // namespace

void nameSteps(const Figure& f, const std::vector<ClosedArea>& areas, std::vector<Step>& steps) {
    const Naming naming(f, areas);
    for (Step& s : steps) {
        // A number of an earlier naming: the list may have become shorter since.
        const auto last = s.name.find_last_not_of("0123456789");
        if (last != std::string::npos && last + 1 < s.name.size() && s.name[last] == ' ') s.name.erase(last);
        if (s.name.empty()) s.name = naming.nameOf(s, &s == &steps.front());
        if (s.kind == StepKind::hole && s.places.size() > 1 && s.name.ends_with("hole")) s.name += "s";
    }
    std::map<std::string, int> met;
    for (Step& s : steps)
        if (const int n = ++met[s.name]; n > 1) s.name = fmt::format("{} {}", s.name, n);
}

} // namespace prism
