#pragma once
#include "support/samples.h"

// Steps of a JSON list on a block of 80 x 50 x 20, drawn in front and top view.
namespace prism::test {

inline constexpr double kBlock = 80 * 50 * 20;
DxfText block();

Document documentOf(DxfText t);
/// The document with the steps of a JSON list.
Document built(const DxfText& sheet, const std::string& steps);
/// The volume of a sound solid all of whose steps are done.
double volumeOf(const Document& d);
double volumeOf(const DxfText& sheet, const std::string& steps);
/// What the last step says, which cannot be made.
std::string told(const DxfText& sheet, const std::string& steps);
/// The block itself, and what follows it.
std::string onBlock(const std::string& more);
/// What is said of a list with a wrong field.
std::string wrongField(const std::string& steps);

} // namespace prism::test
