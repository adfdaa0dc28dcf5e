#include "core/reading/read.h"
#include "core/views/view_set.h"

#include <cstddef>
#include <cstdint>

// Any bytes as a drawing: read, cleaned and searched for views. Nothing may crash or hang.
extern "C" int LLVMFuzzerTestOneInput(const uint8_t* data, size_t size) {
    prism::NoProgress quiet;
    const auto d = prism::readDrawing({reinterpret_cast<const char*>(data), size}, quiet);
    if (!d || d->entities.size() > 2000) return 0;
    const prism::CleanSheet s = prism::clean(*d, {});
    prism::findViews(*d, s, {}, quiet);
    return 0;
}
