#pragma once
#include "core/base/result.h"

#include <optional>

namespace prism {

/// The whole of a file; unreadable when it cannot be opened, is no plain file or is larger than 2 GiB.
Result<std::string> fileBytes(const std::string& path);

/// What the file held when it was looked at, to tell whether somebody has changed it since.
struct FileStamp {
    unsigned long long size = 0, hash = 0;
    friend bool operator==(const FileStamp&, const FileStamp&) = default;
};
FileStamp stampOf(std::string_view bytes);
/// None when there is no such file.
std::optional<FileStamp> stampOfFile(const std::string& path);

/// Writes bytes to a file beside the target, flushes them to disk and renames it over the target: a killed
/// process leaves the target as it was. A link is followed to what it names; access rights of a file that is
/// there are kept; what is no plain file (a pipe, a device) is written to directly. What writers that were
/// killed left beside the target is cleared away. With `expected` nothing is written unless the file still is
/// what it was then (or, for none, still is not there). Impossible with what and why.
Result<void> writeAtomically(const std::string& path, std::string_view bytes,
                             const std::optional<std::optional<FileStamp>>& expected = std::nullopt);

/// Whether both paths name one file that is there.
bool sameFile(const std::string& a, const std::string& b);

/// A file in memory under a path, for libraries that write to files only. Whatever becomes of the process,
/// nothing of it is left.
class PassingFile {
  public:
    PassingFile();
    ~PassingFile();
    PassingFile(const PassingFile&) = delete;
    PassingFile& operator=(const PassingFile&) = delete;
    const std::string& path() const { return path_; } ///< empty when none could be made

  private:
    int fd_ = -1;
    std::string path_;
};

} // namespace prism
