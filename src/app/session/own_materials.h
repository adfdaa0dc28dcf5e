#pragma once
#include "core/building/material.h"

// The materials that a person added, kept from one project to the next. A name stands for one of them only.
namespace prism::app::own_materials {

std::vector<Material> all();
/// Over one of the same name, in whatever case.
void keep(const Material& m);
void forget(const std::string& name);
/// The material of a name, in whatever case: of the list that ships or of a person's own; or one that is
/// written as "name = 7850". None for anything else.
std::optional<Material> named(const std::string& text);

} // namespace prism::app::own_materials
