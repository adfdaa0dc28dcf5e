#pragma once
#include "core/project/project_file.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

// What the choices of every stage are written with. Reading throws nlohmann's exceptions for a wrong shape.
namespace prism::choices_json {

using Json = nlohmann::ordered_json;

/// A member that is an object; an empty one when it is missing. A reference, so that its items outlive the
/// loop head.
inline const Json& objectOf(const Json& j, const char* key) {
    static const Json none = Json::object();
    const auto it = j.find(key);
    return it == j.end() ? none : *it;
}

inline Json pointJson(Vec2 p) {
    return Json::array({p.x, p.y});
}

inline Vec2 pointFrom(const Json& j) {
    return {j.at(0).get<double>(), j.at(1).get<double>()};
}

[[noreturn]] inline void unknownWord(const std::string& what, const std::string& word) {
    throw Json::other_error::create(501, fmt::format("unknown {} \"{}\"", what, word),
                                    static_cast<const Json*>(nullptr));
}

/// A number above zero that a length or a scale may have.
inline double positiveFrom(const Json& j, const char* what) {
    const double v = j.get<double>();
    if (!(v > 1e-9 && v < 1e9)) unknownWord(what, fmt::format("{}", v));
    return v;
}

inline Role roleFrom(const Json& j) {
    const auto r = roleNamed(j.get<std::string>());
    if (!r) unknownWord("role", j.get<std::string>());
    return *r;
}

inline ViewName viewNameFrom(const Json& j) {
    const auto n = viewNamed(j.get<std::string>());
    if (!n) unknownWord("view", j.get<std::string>());
    return *n;
}

template <class Names> int indexOf(const Names& names, const Json& j, const char* what) {
    const auto word = j.get<std::string>();
    for (size_t i = 0; i < names.size(); ++i)
        if (word == names[i]) return static_cast<int>(i);
    unknownWord(what, word);
}

/// A value of an enumeration by the name that nameOf gives it; `last` is its last value.
template <class Enum> Enum named(const Json& j, Enum last, const char* what) {
    const auto word = j.get<std::string>();
    for (int i = 0; i <= static_cast<int>(last); ++i)
        if (word == nameOf(static_cast<Enum>(i))) return static_cast<Enum>(i);
    unknownWord(what, word);
}

Json viewsJson(const ViewChoices& v);
ViewChoices viewsFrom(const Json& j);
Json readingJson(const ReadingChoices& r);
ReadingChoices readingFrom(const Json& j);
Json marksJson(const MarkUp& m);
MarkUp marksFrom(const Json& j);

} // namespace prism::choices_json
