#pragma once
#include "support/samples.h"

namespace prism::test {

/// One run of the batch door.
struct Ran {
    int status = -1;
    std::string out, err;
    Json json() const { return Json::parse(out); }
};

std::string quoted(const std::string& s);
Ran run(const std::string& words);

} // namespace prism::test
