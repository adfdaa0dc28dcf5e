#pragma once
#include "core/project/model.h"

namespace prism {

/// Whether two choices about one source lead to the same views, and to the same figure as driven.
bool sameViews(const Choices& a, const Choices& b);
bool sameFigure(const Choices& a, const Choices& b);

} // namespace prism
