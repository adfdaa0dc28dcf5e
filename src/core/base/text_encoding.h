#pragma once
#include <string>
#include <string_view>

namespace prism {

bool isUtf8(std::string_view s);

/// Text in a code page as UTF-8. `page` is the name the system's converter knows ("CP1252", "SHIFT_JIS"); a
/// byte that means nothing in it, or an unknown page, is taken as Windows-1252, the page of most old sheets.
std::string utf8From(std::string_view bytes, const std::string& page);

/// The converter's name for a drawing's code page ("ANSI_1251", "DOS850", "ISO8859-2"); CP1252 when unknown.
std::string codePageNamed(std::string_view declared);

} // namespace prism
