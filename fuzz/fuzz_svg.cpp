#include "core/reading/svg_read.h"
#include "core/views/view_set.h"

#include <cstddef>
#include <cstdint>

// Any bytes as an SVG: read, cleaned and searched for views. Nothing may crash or hang.
extern "C" int LLVMFuzzerTestOneInput(const uint8_t* data, size_t size) {
    prism::NoProgress quiet;
    auto d = prism::readSvg({reinterpret_cast<const char*>(data), size}, quiet);
    if (!d || d->entities.size() > 2000) return 0;
    const prism::CleanSheet s = prism::clean(std::make_shared<const prism::Drawing>(std::move(*d)), {}, {});
    prism::findViews(*s.drawing, s, {}, quiet);
    return 0;
}
