#include "core/base/box_tree.h"

#include <boost/geometry/geometries/box.hpp>
#include <boost/geometry/geometries/point.hpp>
#include <boost/geometry/index/rtree.hpp>

namespace prism {
namespace {

namespace geo = boost::geometry;
using Point = geo::model::point<double, 2, geo::cs::cartesian>;
using Box = geo::model::box<Point>;
using Entry = std::pair<Box, int>;

Box boxFrom(const Box2& b) {
    return {{b.lo.x, b.lo.y}, {b.hi.x, b.hi.y}};
}

std::vector<Entry> entriesOf(const std::vector<Box2>& boxes) {
    std::vector<Entry> r;
    r.reserve(boxes.size());
    for (size_t i = 0; i < boxes.size(); ++i)
        if (boxes[i].valid()) r.emplace_back(boxFrom(boxes[i]), static_cast<int>(i));
    return r;
}

} // namespace

struct BoxTree::Tree {
    geo::index::rtree<Entry, geo::index::rstar<16>> boxes;
};

BoxTree::BoxTree(const std::vector<Box2>& boxes) : tree_(new Tree{decltype(Tree::boxes)(entriesOf(boxes))}) {}
BoxTree::~BoxTree() = default;
BoxTree::BoxTree(BoxTree&&) noexcept = default;

std::vector<int> BoxTree::overlapping(const Box2& box) const {
    std::vector<int> r;
    if (!box.valid()) return r;
    for (auto it = tree_->boxes.qbegin(geo::index::intersects(boxFrom(box))); it != tree_->boxes.qend(); ++it)
        r.push_back(it->second);
    std::sort(r.begin(), r.end());
    return r;
}

} // namespace prism
