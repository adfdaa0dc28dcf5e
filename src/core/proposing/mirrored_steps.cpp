#include "core/proposing/mirrored_steps.h"

#include "core/building/reaches.h"

#include <fmt/format.h>

namespace prism {
namespace {

/// A plane square to a model axis, with the centre line that stands for it in a view.
struct MirrorPlane {
    Axis across;
    MarkRef line;
};

class Mirrors {
  public:
    Mirrors(const Figure& f, const std::vector<ClosedArea>& areas)
        : f_(f), areas_(areas), tol_(4 * f.tolerances.same_model) {}

    /// The plane in which a step is the image of another one; none where it is not, or no line says so.
    std::optional<MirrorPlane> between(const Step& a, const Step& b) const {
        const FigureView* v = f_.viewNamed(a.view);
        if (!v || !v->square || !plain(a) || !plain(b) || b.view != a.view || b.operation != a.operation)
            return {};
        const auto one = areasOf(a, v->view), other = areasOf(b, v->view);
        const auto reach = building::reachOf(f_, a, *v, a.to), image = building::reachOf(f_, b, *v, b.to);
        if (one.empty() || one.size() != other.size() || !reach || !image) return {};
        const Box2 box = boxOf(one), over = boxOf(other);
        const bool level = near(reach->lo, image->lo) && near(reach->hi, image->hi);
        for (const Axis across : {v->axes.right, v->axes.up, v->axes.depth}) {
            const bool deep = across == v->axes.depth, right = across == v->axes.right;
            const double at = deep    ? 0.25 * (reach->lo + reach->hi + image->lo + image->hi)
                              : right ? 0.25 * (box.lo.x + box.hi.x + over.lo.x + over.hi.x)
                                      : 0.25 * (box.lo.y + box.hi.y + over.lo.y + over.hi.y);
            const bool facing = deep ? one == other && near(reach->lo + image->hi, 2 * at) &&
                                           near(reach->hi + image->lo, 2 * at)
                                     : level && areImages(one, other, right, at);
            if (!facing) continue;
            if (const auto line = centreLineAt(across, at)) return MirrorPlane{across, *line};
        }
        return {};
    }

  private:
    using Areas = std::vector<const ClosedArea*>;

    static bool plain(const Step& s) {
        return s.kind == StepKind::extrude && s.tops.empty() && s.sharp.empty() && s.draft == 0 && !s.off;
    }
    bool near(double a, double b) const { return std::abs(a - b) <= tol_; }
    static Box2 boxOf(const Areas& areas) {
        Box2 r;
        for (const ClosedArea* a : areas) r.add(a->box);
        return r;
    }
    /// Sorted as they stand in the list.
    Areas areasOf(const Step& s, int view) const {
        Areas r;
        for (const ClosedArea& a : areas_)
            if (a.view == view && std::ranges::find(s.areas, a.seed) != s.areas.end()) r.push_back(&a);
        return r;
    }
    bool areImages(const Areas& one, const Areas& other, bool right, double at) const {
        const auto image = [&](Vec2 p) { return right ? Vec2{2 * at - p.x, p.y} : Vec2{p.x, 2 * at - p.y}; };
        const auto isImage = [&](const ClosedArea* a, const ClosedArea* b) {
            const auto shows = [&](const Loop& l) {
                return std::ranges::all_of(l, [&](const AreaEdge& e) {
                    return std::ranges::all_of(std::array{0.0, 0.3, 0.5, 0.8}, [&](double t) {
                        return b->onBorder(image(pointAt(e.shape, t)), tol_);
                    });
                });
            };
            return a != b && a->holes.size() == b->holes.size() &&
                   std::abs(a->area - b->area) <= tol_ * (a->box.width() + a->box.height()) &&
                   shows(a->outer) && std::ranges::all_of(a->holes, shows);
        };
        return std::ranges::all_of(one, [&](const ClosedArea* a) {
            return std::ranges::any_of(other, [&](const ClosedArea* b) { return isImage(a, b); });
        });
    }
    /// A place on a centre line that lines of the sheet stand on both sides of as each other's images.
    std::optional<MarkRef> centreLineAt(Axis across, double at) const {
        for (const Relation& r : f_.relations) {
            if (r.kind != RelationKind::symmetric || r.curves.size() != 2 || r.curves[0] < 0 ||
                r.curves[1] < 0)
                continue;
            const FigureCurve &a = f_.curves[static_cast<size_t>(r.curves[0])],
                              &b = f_.curves[static_cast<size_t>(r.curves[1])];
            const FigureView* v = f_.viewById(a.view);
            const bool right = v->axes.right == across;
            if (!v->square || (!right && v->axes.up != across)) continue;
            const Box2 box = prism::boxOf(a.drawn), over = prism::boxOf(b.drawn);
            const auto mirrored = [&](double lo, double hi, double other_lo, double other_hi) {
                return near(lo + other_hi, 2 * at) && near(hi + other_lo, 2 * at);
            };
            if (right ? mirrored(box.lo.x, box.hi.x, over.lo.x, over.hi.x)
                      : mirrored(box.lo.y, box.hi.y, over.lo.y, over.hi.y))
                return MarkRef{v->name, right ? Vec2{at, box.centre().y} : Vec2{box.centre().x, at}};
        }
        return {};
    }

    const Figure& f_;
    const std::vector<ClosedArea>& areas_;
    double tol_;
};

/// Whether steps may trade places: bodies that are all joined, all cut off or all intersected.
bool commute(const Step& a, const Step& b) {
    return hasOwnBody(a.kind) && hasOwnBody(b.kind) && a.operation == b.operation;
}

bool isSpokenOf(const std::vector<Step>& steps, const std::string& name) {
    return std::ranges::any_of(steps, [&](const Step& s) {
        return s.edges.step == name || std::ranges::find(s.of, name) != s.of.end();
    });
}

} // namespace

std::vector<Step> withMirrors(const Figure& f, const std::vector<ClosedArea>& areas,
                              std::vector<Step> steps) {
    const Mirrors mirrors(f, areas);
    std::vector<Step> r, images; // those of a run of steps that may trade places stand behind it
    const auto endRun = [&] {
        std::ranges::move(images, std::back_inserter(r));
        images.clear();
    };
    for (size_t j = 0; j < steps.size(); ++j) {
        if (j > 0 && !commute(steps[j - 1], steps[j])) endRun();
        std::optional<MirrorPlane> plane;
        size_t i = 0;
        for (; i < r.size() && !plane; ++i)
            if (!isSpokenOf(steps, steps[j].name)) plane = mirrors.between(r[i], steps[j]);
        if (!plane) {
            r.push_back(steps[j]);
            continue;
        }
        const std::string& first = r[i - 1].name;
        const auto same = std::ranges::find_if(
            images, [&](const Step& m) { return m.axis == plane->line && m.across == plane->across; });
        if (same != images.end()) {
            same->of.push_back(first);
            same->name = same->of.size() == 2
                             ? fmt::format("{} and {} mirrored", same->of.front(), first)
                             : fmt::format("{} and {} more mirrored", same->of.front(), same->of.size() - 1);
            continue;
        }
        Step mirror;
        mirror.kind = StepKind::mirror;
        mirror.across = plane->across, mirror.axis = plane->line;
        mirror.of = {first}, mirror.name = fmt::format("{} mirrored", first);
        images.push_back(std::move(mirror));
    }
    endRun();
    return r;
}

} // namespace prism
