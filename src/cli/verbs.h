#pragma once
#include <optional>
#include <string>
#include <vector>

namespace prism::cli {

/// Exit statuses, as documented for the batch door.
inline constexpr int kDone = 0, kFindings = 1, kUsage = 2, kUnreadable = 3, kImpossible = 4;

struct Request {
    std::string file, output, save, steps, material;
    std::vector<std::string> changes;
    bool json = false, entities = false, unproved = false, suggest = false, complete = false;
    std::optional<std::string> layout;
    int page = 1;
    std::optional<int> part; ///< of several on the sheet, from 1
    bool page_as_picture = false, no_trace = false, keep_stretch = false;
    std::vector<std::string> lengths,
        cuts; ///< of a scan: "X0,Y0,X1,Y1=LENGTH" and "NAME=X0,Y0,X1,Y1", pixels
    std::string preset, keep_preset, after, repair;
    std::string report; ///< where a report is written
    std::string laying; ///< of dimensions that are added: baseline, chain or ordinate; empty: none are
    std::vector<std::string> datum; ///< low, high or middle: for all axes, or for X, Y and Z
    int (*run)(const Request&) = nullptr;
};

/// Runs the request's verb; whatever is thrown on the way is told like any other error.
int runGuarded(const Request& q);

int runRead(const Request& q);
int runViews(const Request& q);
int runCheck(const Request& q);
int runBuild(const Request& q);
int runReread(const Request& q);
int runSet(const Request& q);
int runProof(const Request& q);
int runExport(const Request& q);

} // namespace prism::cli
