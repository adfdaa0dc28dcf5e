#pragma once
// Plane vectors, boxes and affine maps. Lengths carry the unit of their context (sheet units or model mm).
#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>
#include <vector>

namespace prism {

inline constexpr double kPi = std::numbers::pi;

struct Vec2 {
    double x = 0, y = 0;
    friend Vec2 operator+(Vec2 a, Vec2 b) { return {a.x + b.x, a.y + b.y}; }
    friend Vec2 operator-(Vec2 a, Vec2 b) { return {a.x - b.x, a.y - b.y}; }
    friend Vec2 operator*(Vec2 a, double s) { return {a.x * s, a.y * s}; }
    friend Vec2 operator*(double s, Vec2 a) { return a * s; }
    friend Vec2 operator-(Vec2 a) { return {-a.x, -a.y}; }
    friend bool operator==(Vec2, Vec2) = default;
    double operator[](int i) const { return i == 0 ? x : y; }
};
inline double dot(Vec2 a, Vec2 b) {
    return a.x * b.x + a.y * b.y;
}
inline double cross(Vec2 a, Vec2 b) {
    return a.x * b.y - a.y * b.x;
}
inline double length(Vec2 a) {
    return std::hypot(a.x, a.y);
}
inline double distance(Vec2 a, Vec2 b) {
    return length(a - b);
}
inline Vec2 normalized(Vec2 a) {
    const double l = length(a);
    return l > 0 ? a * (1 / l) : Vec2{0, 0};
}
/// Direction of an angle in radians, counter-clockwise from +x.
inline Vec2 direction(double angle) {
    return {std::cos(angle), std::sin(angle)};
}
inline double angleOf(Vec2 a) {
    return std::atan2(a.y, a.x);
}
/// The same angle in [0, 2 pi).
inline double positiveAngle(double a) {
    a = std::fmod(a, 2 * kPi);
    return a < 0 ? a + 2 * kPi : a;
}

struct Vec3 {
    double x = 0, y = 0, z = 0;
    friend Vec3 operator+(Vec3 a, Vec3 b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }
    friend Vec3 operator-(Vec3 a, Vec3 b) { return {a.x - b.x, a.y - b.y, a.z - b.z}; }
    friend Vec3 operator*(Vec3 a, double s) { return {a.x * s, a.y * s, a.z * s}; }
    friend Vec3 operator*(double s, Vec3 a) { return a * s; }
    friend Vec3 operator-(Vec3 a) { return {-a.x, -a.y, -a.z}; }
    friend bool operator==(Vec3, Vec3) = default;
};
inline double dot(Vec3 a, Vec3 b) {
    return a.x * b.x + a.y * b.y + a.z * b.z;
}
inline Vec3 cross(Vec3 a, Vec3 b) {
    return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}

/// Axis-parallel box; empty (valid() false) until something is added.
struct Box2 {
    Vec2 lo{std::numeric_limits<double>::infinity(), std::numeric_limits<double>::infinity()};
    Vec2 hi{-std::numeric_limits<double>::infinity(), -std::numeric_limits<double>::infinity()};
    bool valid() const { return lo.x <= hi.x && lo.y <= hi.y; }
    double width() const { return hi.x - lo.x; }
    double height() const { return hi.y - lo.y; }
    Vec2 centre() const { return (lo + hi) * 0.5; }
    void add(Vec2 p) {
        lo = {std::min(lo.x, p.x), std::min(lo.y, p.y)};
        hi = {std::max(hi.x, p.x), std::max(hi.y, p.y)};
    }
    void add(const Box2& b) {
        if (b.valid()) add(b.lo), add(b.hi);
    }
    Box2 grown(double d) const { return {{lo.x - d, lo.y - d}, {hi.x + d, hi.y + d}}; }
    bool contains(Vec2 p) const { return p.x >= lo.x && p.x <= hi.x && p.y >= lo.y && p.y <= hi.y; }
    bool contains(const Box2& b) const { return contains(b.lo) && contains(b.hi); }
    bool overlaps(const Box2& b) const {
        return lo.x <= b.hi.x && b.lo.x <= hi.x && lo.y <= b.hi.y && b.lo.y <= hi.y;
    }
    double diagonal() const { return valid() ? length(hi - lo) : 0; }
};

/// Affine map p -> (a p.x + c p.y + e, b p.x + d p.y + f).
struct Affine2 {
    double a = 1, b = 0, c = 0, d = 1, e = 0, f = 0;
    Vec2 operator()(Vec2 p) const { return {a * p.x + c * p.y + e, b * p.x + d * p.y + f}; }
    /// The map of a direction, without the shift.
    Vec2 linear(Vec2 p) const { return {a * p.x + c * p.y, b * p.x + d * p.y}; }
    double determinant() const { return a * d - b * c; }
    /// Whether circles stay circles.
    bool keepsCircles() const {
        const double s = std::max({std::abs(a), std::abs(b), std::abs(c), std::abs(d)});
        return std::abs(a * c + b * d) < 1e-9 * s * s &&
               std::abs(a * a + b * b - c * c - d * d) < 1e-9 * s * s;
    }
    static Affine2 shift(Vec2 v) { return {1, 0, 0, 1, v.x, v.y}; }
    static Affine2 scale(double sx, double sy) { return {sx, 0, 0, sy, 0, 0}; }
    static Affine2 rotation(double t) { return {std::cos(t), std::sin(t), -std::sin(t), std::cos(t), 0, 0}; }
    /// First b, then a.
    friend Affine2 operator*(const Affine2& a, const Affine2& b) {
        const Vec2 x = a.linear({b.a, b.b}), y = a.linear({b.c, b.d}), o = a({b.e, b.f});
        return {x.x, x.y, y.x, y.y, o.x, o.y};
    }
    Affine2 inverse() const {
        const double det = determinant();
        const Affine2 l{d / det, -b / det, -c / det, a / det, 0, 0};
        const Vec2 o = l.linear({e, f});
        return {l.a, l.b, l.c, l.d, -o.x, -o.y};
    }
};

} // namespace prism
