#include "core/reading/read.h"

#include "core/reading/dxf_file.h"

#include <cstring>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>

namespace prism {

Result<Drawing> readDrawing(std::string_view bytes, Progress& progress) {
    progress.report(0, "Reading the sheet");
    auto tags = dxf::readTags(bytes);
    if (!tags) return tl::make_unexpected(tags.error());
    if (progress.cancelled()) return failure(ErrorCode::cancelled, "reading was cancelled");
    return dxf::interpret(*tags, progress);
}

Result<std::string> fileBytes(const std::string& path) {
    std::error_code ec;
    if (std::filesystem::is_directory(path, ec))
        return failure(ErrorCode::unreadable, fmt::format("{}: is a folder, not a file", path));
    std::ifstream in(path, std::ios::binary | std::ios::ate);
    if (!in) return failure(ErrorCode::unreadable, fmt::format("{}: {}", path, std::strerror(errno)));
    const auto size = in.tellg();
    if (size < 0 || size > (std::streamoff{1} << 31))
        return failure(ErrorCode::unreadable, fmt::format("{}: larger than 2 GiB", path));
    std::string bytes(static_cast<size_t>(size), '\0');
    in.seekg(0);
    if (!in.read(bytes.data(), size))
        return failure(ErrorCode::unreadable, fmt::format("{}: cannot be read", path));
    return bytes;
}

} // namespace prism
