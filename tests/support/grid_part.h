#pragma once
#include "support/three_views.h"

#include <TopoDS_Shape.hxx>
#include <set>

// Parts made of boxes on an uneven grid, and every piece of line that their views show, found box by box.
namespace prism::test {

/// A part on a grid of boxes, by axis.
struct Grid {
    std::array<std::vector<double>, 3>
        at; ///< where the planes between the boxes stand, from the first to the last
    std::vector<bool> full;

    int count(int axis) const { return static_cast<int>(at[static_cast<size_t>(axis)].size()) - 1; }
    size_t index(std::array<int, 3> c) const {
        return static_cast<size_t>((c[0] * count(1) + c[1]) * count(2) + c[2]);
    }
    bool is(std::array<int, 3> c) const {
        for (int a : {0, 1, 2})
            if (c[static_cast<size_t>(a)] < 0 || c[static_cast<size_t>(a)] >= count(a)) return false;
        return full[index(c)];
    }
    Vec3 middle(std::array<int, 3> c) const {
        const auto m = [&](size_t a) {
            const auto i = static_cast<size_t>(c[a]);
            return 0.5 * (at[a][i] + at[a][i + 1]);
        };
        return {m(0), m(1), m(2)};
    }
    template <class F> void each(F f) const {
        for (int x = 0; x < count(0); ++x)
            for (int y = 0; y < count(1); ++y)
                for (int z = 0; z < count(2); ++z) f(std::array{x, y, z});
    }
    double volume() const; ///< mm^3
    double size() const { return std::max({at[0].back(), at[1].back(), at[2].back()}); }
    /// Whether all of it hangs together face by face.
    bool whole() const;
};

/// A full block off which boxes are taken; every side of the whole box is still reached. `few`: of 12 boxes
/// in all, so that every part of these boxes can be drawn.
Grid carved(unsigned seed, bool few = false);
/// Its solid, with faces in one plane merged.
TopoDS_Shape solidOf(const Grid& g);
/// Every part that some of these boxes make.
std::vector<Grid> everyPartOf(const Grid& g);

/// A coordinate of a place, by axis.
inline double along(Vec3 p, int axis) {
    return axis == 0 ? p.x : axis == 1 ? p.y : p.z;
}

/// A piece of line between two boxes that lie beside each other as a view shows them.
struct Drawn {
    int look; ///< axis
    Vec3 a, b;
    bool seen;
    auto key() const { return std::tuple(look, seen, a.x, a.y, a.z, b.x, b.y, b.z); }
    friend bool operator<(const Drawn& p, const Drawn& q) { return p.key() < q.key(); }
    friend bool operator==(const Drawn& p, const Drawn& q) { return p.key() == q.key(); }
};

/// Every piece of line of the three views: seen where what is in front lies unlike deep on both sides, hidden
/// where only something behind that differs.
std::set<Drawn> linesOf(const Grid& g);
/// Whether the lines of some view end at every plane between the boxes.
bool everyPlaneIn(const std::set<Drawn>& lines, const Grid& g);
ThreeViews sheetOf(const Grid& g, const std::set<Drawn>& lines);

/// What lies behind a plane in the middle of a layer of boxes along Y.
Grid behind(const Grid& g, size_t layer);
/// The three views of a part, and the hatched section A-A along such a plane.
DxfText withSection(const Grid& g, size_t layer);

} // namespace prism::test
