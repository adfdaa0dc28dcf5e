#include "core/project/project_file.h"

#include <cstddef>
#include <cstdint>
#include <nlohmann/json.hpp>

// Any bytes as a project file, and as the list of choices inside one.
extern "C" int LLVMFuzzerTestOneInput(const uint8_t* data, size_t size) {
    const std::string bytes(reinterpret_cast<const char*>(data), size);
    (void)prism::readProject(bytes);
    (void)prism::readBuildList(bytes);
    try {
        (void)prism::choicesFromJson(nlohmann::ordered_json::parse(bytes));
    } catch (const nlohmann::json::exception&) { // a wrong shape is refused that way
    }
    return 0;
}
