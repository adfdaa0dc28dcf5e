#include "core/base/groups.h"
#include "core/base/box_tree.h"
#include "core/base/curve_cells.h"
#include "core/views/stages.h"

#include <boost/geometry.hpp>
#include <boost/geometry/geometries/multi_point.hpp>
#include <boost/geometry/geometries/point_xy.hpp>
#include <boost/geometry/geometries/polygon.hpp>
#include <tuple>

namespace prism::views {
namespace {

namespace bg = boost::geometry;
using Point = bg::model::d2::point_xy<double>;

bool cross(const Segment& s, const Segment& t, double tol) {
    const Vec2 u = s.b - s.a, v = t.b - t.a, w = t.a - s.a;
    const double det = prism::cross(u, v);
    if (std::abs(det) < 1e-14 * length(u) * length(v)) return false;
    const double a = prism::cross(w, v) / det, b = prism::cross(w, u) / det;
    const double ea = tol / std::max(tol, length(u)), eb = tol / std::max(tol, length(v));
    return a >= -ea && a <= 1 + ea && b >= -eb && b <= 1 + eb;
}

bool touch(const Curve& a, const Curve& b, double tol) {
    for (const Vec2 p : {startOf(a), endOf(a)})
        if (distanceTo(b, p) <= tol) return true;
    for (const Vec2 p : {startOf(b), endOf(b)})
        if (distanceTo(a, p) <= tol) return true;
    const auto *s = std::get_if<Segment>(&a), *t = std::get_if<Segment>(&b);
    if (s && t) return cross(*s, *t, tol);
    const auto pa = sampled(a, tol * 50 + 1e-9), pb = sampled(b, tol * 50 + 1e-9);
    if (pa.size() * pb.size() > 40000) return false;
    for (size_t i = 1; i < pa.size(); ++i)
        for (size_t j = 1; j < pb.size(); ++j)
            if (cross({pa[i - 1], pa[i]}, {pb[j - 1], pb[j]}, tol)) return true;
    return false;
}

Point pointOf(Vec2 v) {
    return {v.x, v.y};
}

bg::model::polygon<Point, false> polygonOf(const std::vector<Vec2>& hull) {
    bg::model::polygon<Point, false> p;
    for (Vec2 v : hull) bg::append(p, pointOf(v));
    bg::correct(p);
    return p;
}

std::vector<Vec2> hullOf(const std::vector<Vec2>& points) {
    bg::model::multi_point<Point> all;
    for (Vec2 v : points) bg::append(all, pointOf(v));
    bg::model::polygon<Point, false> hull;
    bg::convex_hull(all, hull);
    std::vector<Vec2> r;
    for (const Point& v : hull.outer()) r.push_back({v.x(), v.y()});
    return r;
}

/// Share of the smaller box that lies in the larger.
double overlapShare(const Box2& a, const Box2& b) {
    const double w = std::min(a.hi.x, b.hi.x) - std::max(a.lo.x, b.lo.x);
    const double h = std::min(a.hi.y, b.hi.y) - std::max(a.lo.y, b.lo.y);
    if (w < 0 || h < 0) return 0;
    const double sa = a.width() * a.height(), sb = b.width() * b.height();
    if (std::min(sa, sb) <= 0) return 1; // a line within a box
    return w * h / std::min(sa, sb);
}

/// The same for the hulls; where they cannot be compared, what the boxes said holds.
double hullShare(const Group& a, const Group& b) {
    const bg::model::polygon<Point, false> p = polygonOf(a.hull), q = polygonOf(b.hull);
    const double least = std::min(bg::area(p), bg::area(q)), whole = std::max(bg::area(p), bg::area(q));
    if (!(whole > 0)) return 1;
    // A line, or almost one: it belongs where its middle lies.
    if (least < 1e-6 * whole) {
        const bool first = bg::area(p) < bg::area(q);
        return bg::covered_by(pointOf((first ? a : b).box.centre()), first ? q : p) ? 1 : 0;
    }
    std::vector<bg::model::polygon<Point, false>> both;
    try {
        bg::intersection(p, q, both);
    } catch (const bg::exception&) {
        return 1;
    }
    double sum = 0;
    for (const auto& x : both) sum += bg::area(x);
    return sum / least;
}

std::vector<Vec2> hullOf(const Drawing& d, const Group& g) {
    std::vector<Vec2> points;
    for (int e : g.entities)
        for (const Curve& c : d.entities[e].curves)
            for (Vec2 p : sampled(c, 0.01 * g.box.diagonal() + 1e-12)) points.push_back(p);
    return hullOf(points);
}

/// Whether two boxes touch at a side of theirs without overlapping: views leave room between each other, what
/// meets so is one view that a missing line has parted.
bool abut(const Box2& a, const Box2& b, double tol) {
    for (int k : {0, 1}) {
        const double gap = std::max(a.lo[k], b.lo[k]) - std::min(a.hi[k], b.hi[k]);
        const double common = std::min(a.hi[1 - k], b.hi[1 - k]) - std::max(a.lo[1 - k], b.lo[1 - k]);
        const double least = std::min(a.hi[1 - k] - a.lo[1 - k], b.hi[1 - k] - b.lo[1 - k]);
        if (std::abs(gap) <= tol && common > tol && common >= least - tol) return true;
    }
    return false;
}

/// One round: groups that overlap become one.
bool absorbOnce(const Drawing& d, double tol, std::vector<Group>& g) {
    std::sort(g.begin(), g.end(), [](const Group& a, const Group& b) {
        return std::tie(a.box.lo.x, a.entities) < std::tie(b.box.lo.x, b.entities);
    });
    std::vector<Box2> boxes;
    for (const Group& x : g) boxes.push_back(x.box.grown(tol));
    const BoxTree tree(boxes);
    Groups u(g.size());
    bool any = false;
    constexpr size_t kLeastParted = 2; // lines of what may be a part of a view
    for (size_t i = 0; i < g.size(); ++i)
        for (int j : tree.overlapping(boxes[i])) {
            if (static_cast<size_t>(j) >= i) continue;
            const Group &one = g[static_cast<size_t>(j)], &other = g[i];
            if (one.entities.size() > kLeastParted && other.entities.size() > kLeastParted &&
                abut(one.box, other.box, tol)) {
                u.join(j, static_cast<int>(i)), any = true;
                continue;
            }
            if (overlapShare(one.box, other.box) <= 0.2) continue;
            for (Group* x : {&g[i], &g[j]}) // hulls are made where they are asked for
                if (x->hull.empty()) x->hull = hullOf(d, *x);
            if (hullShare(g[j], g[i]) > 0.2) u.join(j, static_cast<int>(i)), any = true;
        }
    if (!any) return false;
    for (size_t i = 0; i < g.size(); ++i) {
        Group& whole = g[u.find(static_cast<int>(i))];
        if (&whole == &g[i]) continue;
        whole.entities.insert(whole.entities.end(), g[i].entities.begin(), g[i].entities.end());
        whole.box.add(g[i].box);
        for (Group* x : {&whole, &g[i]})
            if (x->hull.empty()) x->hull = hullOf(d, *x);
        whole.hull.insert(whole.hull.end(), g[i].hull.begin(), g[i].hull.end());
        whole.hull = hullOf(whole.hull);
        g[i].entities.clear();
    }
    std::erase_if(g, [](const Group& x) { return x.entities.empty(); });
    return true;
}

} // namespace

std::vector<Group> connectedGroups(const Drawing& d, const CleanSheet& s, const std::vector<int>& lines) {
    // A little more than touching: an open corner or a shifted line must not split a view in two.
    const double tol = std::max(s.tolerances.touch_sheet, extentOf(d).diagonal() * 5e-5);
    struct Item {
        const Curve* curve;
        Box2 box;
        bool border;
    };
    std::vector<Item> items;
    std::vector<const Curve*> curves;
    std::vector<int> line_of; // by item: its index in lines, close together in memory
    for (size_t i = 0; i < lines.size(); ++i)
        for (const Curve& c : d.entities[lines[i]].curves) {
            line_of.push_back(static_cast<int>(i));
            items.push_back({&c, boxOf(c).grown(tol), s.entity_roles[lines[i]] == LineRole::border});
            curves.push_back(&c);
        }
    Groups u(lines.size());
    // In a cell, a line is only held against groups that it does not belong to yet: where lines cross in
    // heaps, there is soon one group left, and nothing to be held.
    CurveCells(curves, tol).forEachCell([&](const std::vector<int>& here) {
        const int root = u.find(line_of[here.front()]);
        if (std::ranges::all_of(here, [&](int i) { return u.find(line_of[i]) == root; })) return;
        std::vector<std::vector<int>> apart; // the lines seen in this cell, by their group
        for (int i : here) {
            const Item& it = items[i];
            const auto joins = [&](const std::vector<int>& those) {
                return u.find(line_of[those.front()]) == u.find(line_of[i]) ||
                       std::ranges::any_of(those, [&](int j) {
                           const Item& o = items[j];
                           return o.border == it.border && o.box.overlaps(it.box) &&
                                  touch(*o.curve, *it.curve, tol);
                       });
            };
            std::vector<int> own{i};
            for (size_t k = apart.size(); k-- > 0;) {
                if (!joins(apart[k])) continue;
                u.join(line_of[apart[k].front()], line_of[i]);
                if (own.size() < apart[k].size()) own.swap(apart[k]); // the longer one stays where it is
                own.insert(own.end(), apart[k].begin(), apart[k].end());
                apart.erase(apart.begin() + static_cast<std::ptrdiff_t>(k));
            }
            apart.push_back(std::move(own));
        }
    });
    std::map<int, Group> byRoot;
    for (size_t i = 0; i < lines.size(); ++i) {
        Group& g = byRoot[u.find(static_cast<int>(i))];
        g.entities.push_back(lines[i]);
        for (const Curve& c : d.entities[lines[i]].curves) g.box.add(boxOf(c));
    }
    std::vector<Group> groups;
    for (auto& [root, g] : byRoot) groups.push_back(std::move(g));
    return groups;
}

void mergeNested(const Drawing& d, std::vector<Group>& groups) {
    const double tol = extentOf(d).diagonal() * 5e-5;
    while (absorbOnce(d, tol, groups)) continue; // a grown box may reach the next group
    for (Group& g : groups) std::sort(g.entities.begin(), g.entities.end());
    std::sort(groups.begin(), groups.end(),
              [](const Group& a, const Group& b) { return a.entities < b.entities; });
}

} // namespace prism::views
