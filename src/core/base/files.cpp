#include "core/base/files.h"

#include "core/base/text_scanner.h"

#include <cerrno>
#include <csignal>
#include <cstring>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>

#include <fcntl.h>
#include <sys/file.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <unistd.h>

namespace prism {
namespace {

namespace fs = std::filesystem;

/// An open file that closes itself.
class Descriptor {
  public:
    explicit Descriptor(int fd) : fd_(fd) {}
    ~Descriptor() {
        if (fd_ >= 0) ::close(fd_);
    }
    Descriptor(const Descriptor&) = delete;
    Descriptor& operator=(const Descriptor&) = delete;
    int get() const { return fd_; }
    bool open() const { return fd_ >= 0; }

  private:
    int fd_;
};

tl::unexpected<Error> cannotWrite(const std::string& path) {
    return failure(ErrorCode::impossible,
                   fmt::format("{}: cannot be written ({})", path, std::strerror(errno)));
}

bool writeAll(int fd, std::string_view bytes) {
    while (!bytes.empty()) {
        const ssize_t n = ::write(fd, bytes.data(), bytes.size());
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return false;
        bytes.remove_prefix(static_cast<size_t>(n));
    }
    return true;
}

/// The file at the end of a chain of links; itself when it is none, or leads nowhere that is there.
fs::path target(const std::string& path) {
    fs::path p = path;
    std::error_code ec;
    for (int i = 0; i < 40 && fs::is_symlink(p, ec); ++i) {
        const fs::path to = fs::read_symlink(p, ec);
        if (ec) break;
        p = to.is_absolute() ? to : p.parent_path() / to;
    }
    return p;
}

fs::path folderOf(const fs::path& p) {
    return p.has_parent_path() ? p.parent_path() : fs::path(".");
}

/// Files that a writer lays beside the target are named so, with the writer's number behind.
std::string asidePrefix(const fs::path& p) {
    return fmt::format(".{}.part", p.filename().string());
}

/// Clears away what writers of this target left that are no longer there.
void clearLeftovers(const fs::path& p) {
    std::error_code ec;
    const std::string prefix = asidePrefix(p);
    for (fs::directory_iterator it(folderOf(p), ec), end; !ec && it != end; it.increment(ec)) {
        const std::string name = it->path().filename().string();
        if (!name.starts_with(prefix)) continue;
        TextScanner number(std::string_view(name).substr(prefix.size()));
        const auto pid = number.whole();
        std::error_code gone;
        if (pid && number.atEnd() && ::kill(static_cast<pid_t>(*pid), 0) != 0 && errno == ESRCH)
            fs::remove(it->path(), gone);
    }
}

Result<void> replace(const fs::path& p, std::string_view bytes, mode_t mode) {
    const std::string aside = (folderOf(p) / (asidePrefix(p) + std::to_string(::getpid()))).string();
    {
        const Descriptor file(::open(aside.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, mode));
        if (!file.open()) return cannotWrite(p.string());
        // The rights asked for, whatever the mask for new files takes away from a file that was there.
        const bool done =
            writeAll(file.get(), bytes) && ::fchmod(file.get(), mode) == 0 && ::fsync(file.get()) == 0;
        if (!done) {
            const auto why = cannotWrite(p.string());
            ::unlink(aside.c_str());
            return why;
        }
    }
    if (::rename(aside.c_str(), p.c_str()) == 0) return {};
    const auto why = cannotWrite(p.string());
    ::unlink(aside.c_str());
    return why;
}

mode_t rightsOfNewFiles() {
    const mode_t mask = ::umask(0);
    ::umask(mask);
    return 0666 & ~mask;
}

} // namespace

Result<std::string> fileBytes(const std::string& path) {
    std::error_code ec;
    if (fs::is_directory(path, ec))
        return failure(ErrorCode::unreadable, fmt::format("{}: is a folder, not a file", path));
    std::ifstream in(path, std::ios::binary | std::ios::ate);
    if (!in) return failure(ErrorCode::unreadable, fmt::format("{}: {}", path, std::strerror(errno)));
    const auto size = in.tellg();
    if (size < 0 || size > (std::streamoff{1} << 31))
        return failure(ErrorCode::unreadable,
                       fmt::format("{}: {}", path, size < 0 ? "is no plain file" : "larger than 2 GiB"));
    std::string bytes(static_cast<size_t>(size), '\0');
    in.seekg(0);
    if (!in.read(bytes.data(), size))
        return failure(ErrorCode::unreadable, fmt::format("{}: cannot be read", path));
    return bytes;
}

FileStamp stampOf(std::string_view bytes) {
    FileStamp s{bytes.size(), 0xcbf29ce484222325ull}; // FNV-1a, 64 bits
    for (const char c : bytes) s.hash = (s.hash ^ static_cast<unsigned char>(c)) * 0x100000001b3ull;
    return s;
}

std::optional<FileStamp> stampOfFile(const std::string& path) {
    const auto bytes = fileBytes(path);
    return bytes ? std::optional(stampOf(*bytes)) : std::nullopt;
}

Result<void> writeAtomically(const std::string& path, std::string_view bytes,
                             const std::optional<std::optional<FileStamp>>& expected) {
    const fs::path p = target(path);
    struct stat now {};
    const bool there = ::stat(p.c_str(), &now) == 0;
    if (there && S_ISDIR(now.st_mode)) return errno = EISDIR, cannotWrite(path);
    if (there && !S_ISREG(now.st_mode)) {
        const Descriptor file(::open(p.c_str(), O_WRONLY | O_CLOEXEC));
        if (!file.open() || !writeAll(file.get(), bytes)) return cannotWrite(path);
        return {};
    }
    if (there && ::access(p.c_str(), W_OK) != 0) return cannotWrite(path);
    // Two writers of one folder that both look before they write take turns.
    const Descriptor folder(expected ? ::open(folderOf(p).c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC) : -1);
    if (folder.open()) ::flock(folder.get(), LOCK_EX);
    if (expected && stampOfFile(p.string()) != *expected)
        return failure(ErrorCode::conflict,
                       fmt::format("{}: somebody else has changed this file since it was read or saved here; "
                                   "nothing was written",
                                   path));
    clearLeftovers(p);
    return replace(p, bytes, there ? now.st_mode & 07777 : rightsOfNewFiles());
}

bool sameFile(const std::string& a, const std::string& b) {
    std::error_code ec;
    if (fs::equivalent(a, b, ec) && !ec) return true;
    return fs::weakly_canonical(target(a), ec) == fs::weakly_canonical(target(b), ec) && !ec;
}

PassingFile::PassingFile() : fd_(::memfd_create("upper-prism", MFD_CLOEXEC)) {
    if (fd_ >= 0) path_ = fmt::format("/proc/self/fd/{}", fd_);
}

PassingFile::~PassingFile() {
    if (fd_ >= 0) ::close(fd_);
}

} // namespace prism
