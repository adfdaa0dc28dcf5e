#include "support/ran.h"

#include <catch2/catch.hpp>
#include <cstdio>
#include <sys/wait.h>

namespace prism::test {

std::string quoted(const std::string& s) {
    return "'" + s + "'";
}

Ran run(const std::string& words) {
    const std::string err = temporary("stderr");
    Ran r;
    FILE* p = ::popen((std::string(PRISM_CLI " ") + words + " 2>" + quoted(err)).c_str(), "r");
    REQUIRE(p);
    char buffer[4096];
    while (const size_t n = std::fread(buffer, 1, sizeof buffer, p)) r.out.append(buffer, n);
    const int status = ::pclose(p);
    r.status = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
    r.err = bytesOf(err);
    return r;
}

} // namespace prism::test
