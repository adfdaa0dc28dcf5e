#include "core/reading/read.h"

#include "core/base/text_encoding.h"
#include "core/reading/dxf_binary.h"
#include "core/reading/dxf_file.h"
#include "core/reading/pdf_read.h"
#include "core/reading/picture_read.h"
#include "core/reading/svg_read.h"

#include <cstring>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>

namespace prism {

namespace {

/// Value of a header variable that stands once near the head of a file; empty when it is not there.
std::string_view headValue(std::string_view bytes, std::string_view name) {
    size_t at = bytes.substr(0, 1 << 16).find(name);
    for (int lines = 0; lines < 2 && at != std::string_view::npos; ++lines) {
        at = bytes.find('\n', at);
        if (at != std::string_view::npos) ++at;
    }
    return at == std::string_view::npos ? std::string_view{}
                                        : bytes.substr(at, bytes.find_first_of("\r\n", at) - at);
}

/// Old files are written in the code page that their head names, later ones in UTF-8 (from AC1021 on); stray
/// lines of those that are not are mended one by one.
std::string withUtf8Texts(std::string_view bytes) {
    const std::string page = codePageNamed(headValue(bytes, "$DWGCODEPAGE"));
    if (headValue(bytes, "$ACADVER") < "AC1021") return utf8From(bytes, page);
    std::string out;
    out.reserve(bytes.size());
    while (!bytes.empty()) {
        const size_t end = std::min(bytes.find('\n'), bytes.size() - 1) + 1;
        const std::string_view line = bytes.substr(0, end);
        out += isUtf8(line) ? std::string(line) : utf8From(line, page);
        bytes.remove_prefix(end);
    }
    return out;
}

Result<Drawing> readDxf(std::string_view bytes, const ReadingChoices& choices, Progress& progress) {
    std::string ascii, encoded;
    if (dxf::isBinary(bytes)) {
        auto r = dxf::asciiFromBinary(bytes);
        if (!r) return tl::make_unexpected(r.error());
        ascii = std::move(*r);
        bytes = ascii;
    }
    if (const std::string why = dxf::wrongFormat(bytes); !why.empty())
        return failure(ErrorCode::unreadable, why);
    if (!isUtf8(bytes)) {
        encoded = withUtf8Texts(bytes);
        bytes = encoded;
    }
    auto tags = dxf::readTags(bytes);
    if (!tags) return tl::make_unexpected(tags.error());
    if (progress.cancelled()) return failure(ErrorCode::cancelled, "reading was cancelled");
    return dxf::interpret(*tags, choices, progress);
}

} // namespace

Result<Drawing> readDrawing(std::string_view bytes, const ReadingChoices& choices, Progress& progress) {
    progress.report(0, "Reading the sheet");
    if (isSvg(bytes)) return readSvg(bytes, progress);
    if (isPdf(bytes)) return readPdf(bytes, choices, progress);
    if (!pictureFormat(bytes).empty()) return readPicture(bytes, choices.picture, progress);
    return readDxf(bytes, choices, progress);
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
