#include "app/session/own_materials.h"

#include "core/base/text_scanner.h"

#include <QSettings>
#include <algorithm>

namespace prism::app::own_materials {
namespace {

constexpr const char* kList = "own";

void write(const std::vector<Material>& list) {
    QSettings s("upper-prism", "materials");
    s.remove(kList);
    s.beginWriteArray(kList);
    for (size_t i = 0; i < list.size(); ++i) {
        s.setArrayIndex(static_cast<int>(i));
        s.setValue("name", QString::fromStdString(list[i].name));
        s.setValue("density", list[i].density);
    }
    s.endArray();
}

auto calledAs(const std::string& name) {
    return [name = capitals(name)](const Material& m) { return capitals(m.name) == name; };
}

} // namespace

std::vector<Material> all() {
    QSettings s("upper-prism", "materials");
    std::vector<Material> r;
    const int count = s.beginReadArray(kList);
    for (int i = 0; i < count; ++i) {
        s.setArrayIndex(i);
        const std::string text =
            s.value("name").toString().toStdString() + " = " + s.value("density").toString().toStdString();
        if (auto m = materialNamed(text)) r.push_back(std::move(*m)); // the file may have been edited by hand
    }
    return r;
}

void keep(const Material& m) {
    std::vector<Material> list = all();
    std::erase_if(list, calledAs(m.name));
    list.push_back(m);
    write(list);
}

void forget(const std::string& name) {
    std::vector<Material> list = all();
    if (std::erase_if(list, calledAs(name))) write(list);
}

std::optional<Material> named(const std::string& text) {
    if (auto m = materialNamed(text)) return m;
    const std::vector<Material> list = all();
    const auto same = std::ranges::find_if(list, calledAs(text));
    return same == list.end() ? std::nullopt : std::optional(*same);
}

} // namespace prism::app::own_materials
