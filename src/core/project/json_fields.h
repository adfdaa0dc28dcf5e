#pragma once
#include "core/base/text_scanner.h"
#include "core/building/steps.h"
#include "core/project/json_parts.h"

#include <set>

namespace prism::choices_json {

inline constexpr double kDegree = kPi / 180;

/// The fields of one object: each is asked for by name, and one that nobody asked for is an error.
class Fields {
  public:
    Fields(const Json& j, std::string path) : j_(j), path_(std::move(path)) {
        if (!j.is_object()) wrong("", "must be an object");
    }
    Fields(const Fields&) = delete;
    Fields& operator=(const Fields&) = delete;

    bool has(const char* key) { return find(key) != nullptr; }
    std::string text(const char* key, const std::string& otherwise) {
        const Json* v = find(key);
        if (!v) return otherwise;
        if (!v->is_string()) wrong(key, "must be a text");
        return v->get<std::string>();
    }
    bool flag(const char* key) {
        const Json* v = find(key);
        if (v && !v->is_boolean()) wrong(key, "must be true or false");
        return v && v->get<bool>();
    }
    int whole(const char* key, int otherwise) {
        constexpr int kMost = 10000;
        const Json* v = find(key);
        if (!v) return otherwise;
        if (!v->is_number_integer() || *v < 1 || *v > kMost)
            wrong(key, "must be a whole number from 1 to 10000");
        return v->get<int>();
    }
    /// An angle in degrees, as radians.
    double angle(const char* key, double otherwise, double least, double most) {
        const Json* v = find(key);
        if (!v) return otherwise;
        if (!v->is_number() || !(*v >= least && *v <= most))
            wrong(key, fmt::format("must be an angle from {:g} to {:g} degrees", least, most).c_str());
        return v->get<double>() * kDegree;
    }
    StepNumber number(const char* key) {
        const Json* v = find(key);
        return v ? numberFrom(*v, key) : StepNumber(0);
    }
    /// A number that must be above zero where it is there.
    StepNumber size(const char* key) {
        StepNumber n = number(key);
        if (has(key) && n.formula.empty() && !(n.value > 0)) wrong(key, "must be above zero");
        return n;
    }
    Vec2 point(const char* key) {
        const Json* v = find(key);
        return v ? pointOf(*v, key) : Vec2{};
    }
    std::vector<Vec2> points(const char* key) {
        std::vector<Vec2> r;
        for (const Json& p : list(key)) r.push_back(pointOf(p, key));
        return r;
    }
    Vec3 place(const char* key) { return placeOf(*find(key), key); }
    std::vector<std::string> texts(const char* key) {
        std::vector<std::string> r;
        for (const Json& t : list(key)) {
            if (!t.is_string()) wrong(key, "must be a list of names");
            r.push_back(t.get<std::string>());
        }
        return r;
    }
    const Json& list(const char* key) {
        static const Json none = Json::array();
        const Json* v = find(key);
        if (v && !v->is_array()) wrong(key, "must be a list");
        return v ? *v : none;
    }
    template <class Enum> Enum word(const char* key, Enum last, Enum otherwise) {
        const Json* v = find(key);
        if (!v) return otherwise;
        std::string known;
        for (int i = 0; i <= static_cast<int>(last); ++i) {
            if (v->is_string() && capitals(v->get<std::string>()) == capitals(nameOf(static_cast<Enum>(i))))
                return static_cast<Enum>(i);
            known += (known.empty() ? "" : ", ") + std::string(nameOf(static_cast<Enum>(i)));
        }
        wrong(key, ("must be one of: " + known).c_str());
    }
    ViewName view(const char* key, const ViewName& otherwise) {
        const Json* v = find(key);
        if (!v) return otherwise;
        const auto n = v->is_string() ? viewNamed(v->get<std::string>()) : std::nullopt;
        if (!n) wrong(key, "names no view (front, top, ..., section A)");
        return *n;
    }
    MarkRef mark(const char* key) {
        const Json* v = find(key);
        if (!v) return {};
        Fields f(*v, at(key));
        MarkRef m{f.view("view", Role::unassigned), f.point("at")};
        if (!m.picked() || !f.has("at")) wrong(key, "needs \"view\" and \"at\"");
        f.done();
        return m;
    }
    Bound bound(const char* key) {
        const Json* v = find(key);
        return v ? boundFrom(*v, key) : Bound{};
    }
    std::vector<Bound> bounds(const char* key) {
        std::vector<Bound> r;
        for (const Json& b : list(key)) r.push_back(boundFrom(b, key));
        return r;
    }
    const Json& object(const char* key) {
        static const Json none = Json::object();
        const Json* v = find(key);
        return v ? *v : none;
    }
    std::string at(const char* key) const { return path_ + "." + key; }
    Vec3 placeOf(const Json& v, const char* key) const {
        if (!v.is_array() || v.size() != 3) wrong(key, "must be [x, y, z] in mm");
        return {coordinate(v[0], key), coordinate(v[1], key), coordinate(v[2], key)};
    }
    /// Refuses what nobody asked for.
    void done() const {
        for (const auto& [key, value] : j_.items())
            if (!asked_.contains(key)) wrong(key.c_str(), "is not known here");
    }
    [[noreturn]] void wrong(const char* key, const char* what) const {
        throw Json::other_error::create(501, fmt::format("{}{}{}: {}", path_, *key ? "." : "", key, what),
                                        static_cast<const Json*>(nullptr));
    }

  private:
    const Json* find(const char* key) {
        asked_.insert(key);
        const auto it = j_.find(key);
        return it == j_.end() ? nullptr : &*it;
    }
    double coordinate(const Json& v, const char* key) const {
        if (!v.is_number() || !std::isfinite(v.get<double>()) || std::abs(v.get<double>()) > 1e9)
            wrong(key, "must have numbers in mm");
        return v.get<double>();
    }
    Vec2 pointOf(const Json& v, const char* key) const {
        if (!v.is_array() || v.size() != 2) wrong(key, "must be [x, y] in mm, or a list of them");
        return {coordinate(v[0], key), coordinate(v[1], key)};
    }
    StepNumber numberFrom(const Json& v, const char* key) const {
        if (v.is_string() && !v.get<std::string>().empty()) return {0, v.get<std::string>()};
        if (!v.is_number()) wrong(key, "must be a number in mm or a formula");
        return coordinate(v, key);
    }
    Bound boundFrom(const Json& v, const char* key) const {
        Bound b;
        if (v == "outermost") return b;
        if (v.is_number()) {
            b.kind = Bound::Kind::value, b.value = numberFrom(v, key);
            return b;
        }
        Fields f(v, at(key));
        if (f.has("mark"))
            b.kind = Bound::Kind::mark, b.mark = f.mark("mark");
        else if (f.has("value"))
            b.kind = Bound::Kind::value, b.value = f.number("value");
        else if (f.has("place"))
            b.kind = Bound::Kind::place, b.place = f.place("place");
        else if (f.has("level"))
            b.kind = Bound::Kind::level, b.level = f.text("level", "");
        b.beyond = f.number("beyond");
        f.done();
        return b;
    }

    const Json& j_;
    std::string path_;
    std::set<std::string> asked_;
};

} // namespace prism::choices_json
