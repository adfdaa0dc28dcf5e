#include "core/views/view_set.h"

#include <fmt/format.h>

namespace prism {
namespace {
constexpr std::array kRoles{"front",   "top",       "bottom", "left",      "right",     "rear",
                            "section", "auxiliary", "detail", "pictorial", "unassigned"};
constexpr char kTags[] = "FTBLRKSADP?";
} // namespace

const char* nameOf(Role r) {
    return kRoles[static_cast<size_t>(r)];
}

std::optional<Role> roleNamed(const std::string& name) {
    for (size_t i = 0; i < kRoles.size(); ++i)
        if (name == kRoles[i]) return static_cast<Role>(i);
    return std::nullopt;
}

std::string nameOf(const ViewName& n) {
    return n.letter.empty() ? nameOf(n.role) : fmt::format("{} {}", nameOf(n.role), n.letter);
}

std::optional<ViewName> viewNamed(const std::string& name) {
    const size_t space = name.find(' ');
    const auto role = roleNamed(name.substr(0, space));
    if (!role) return std::nullopt;
    return ViewName(*role, space == std::string::npos ? "" : name.substr(space + 1));
}

char tagOf(Role r) {
    return kTags[static_cast<size_t>(r)];
}

bool isPrincipal(Role r) {
    return r <= Role::rear;
}

const char* nameOf(Convention c) {
    return c == Convention::first ? "first" : "third";
}

const char* nameOf(Axis a) {
    constexpr std::array names{"X", "Y", "Z"};
    return isModelAxis(a) ? names[static_cast<size_t>(a)] : "its own axis";
}

ViewAxes axesOf(Role r) {
    switch (r) {
    case Role::rear:
        return {Axis::x, Axis::z, -1, 1, Axis::y};
    case Role::top:
        return {Axis::x, Axis::y, 1, 1, Axis::z};
    case Role::bottom:
        return {Axis::x, Axis::y, 1, -1, Axis::z};
    case Role::right:
        return {Axis::y, Axis::z, 1, 1, Axis::x};
    case Role::left:
        return {Axis::y, Axis::z, -1, 1, Axis::x};
    default:
        return {Axis::x, Axis::z, 1, 1, Axis::y};
    }
}

Vec3 unitOf(Axis a) {
    return {a == Axis::x ? 1.0 : 0.0, a == Axis::y ? 1.0 : 0.0, a == Axis::z ? 1.0 : 0.0};
}

Vec3 lookOf(Role r) {
    const ViewAxes a = axesOf(r);
    return cross(a.up_sign * unitOf(a.up), a.right_sign * unitOf(a.right));
}

const char* nameOf(Hanging::By by) {
    constexpr std::array names{"cutting_plane", "centre_line", "arrow", "edge", "area", "hand"};
    return names[static_cast<size_t>(by)];
}

Affine2 View::toModel() const {
    if (hanging) return hanging->own;
    const ViewAxes ax = axesOf(role);
    return {ax.right_sign * mm_per_sheet, 0, 0, ax.up_sign * mm_per_sheet, offset.x, offset.y};
}

const View* ViewSet::withRole(Role r) const {
    const View* first = nullptr;
    for (const View& v : views)
        if (v.role == r && (!first || (v.in_figure && !first->in_figure))) first = &v;
    return first;
}

const View* ViewSet::withKey(const std::string& key) const {
    for (const View& v : views)
        if (v.key == key) return &v;
    return nullptr;
}

Vec2 sizeOf(const Drawing& d, const View& v) {
    const Affine2 m = v.toModel();
    const bool askew = v.hanging && std::min(std::abs(m.a), std::abs(m.b)) > 1e-6 * std::abs(m.determinant());
    if (!askew) return Vec2{v.box_sheet.width(), v.box_sheet.height()} * v.mm_per_sheet;
    Box2 b;
    for (int e : v.entities)
        for (const Curve& c : d.entities[e].curves) b.add(boxOf(transformed(c, m)));
    return {b.width(), b.height()};
}

} // namespace prism
