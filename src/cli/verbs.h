#pragma once
#include <optional>
#include <string>
#include <vector>

namespace prism::cli {

/// Exit statuses, as documented for the batch door.
inline constexpr int kDone = 0, kFindings = 1, kUsage = 2, kUnreadable = 3, kImpossible = 4;

struct Request {
    std::string file, output, save, steps;
    std::vector<std::string> changes;
    bool json = false, entities = false;
    std::optional<std::string> layout;
    int page = 1;
    std::string preset, keep_preset, after;
    int (*run)(const Request&) = nullptr;
};

int runRead(const Request& q);
int runViews(const Request& q);
int runCheck(const Request& q);
int runBuild(const Request& q);
int runReread(const Request& q);
int runSet(const Request& q);
int runProof(const Request& q);
int runExport(const Request& q);

} // namespace prism::cli
