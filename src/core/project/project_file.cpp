#include "core/project/project_file.h"

#include <fmt/format.h>
#include <memory>
#include <nlohmann/json.hpp>
#include <zip.h>

namespace prism {
namespace {

using Json = nlohmann::ordered_json;

constexpr int kFormat = 1;
constexpr zip_uint64_t kLargestEntry = 1ull << 31;

struct CloseZip {
    void operator()(zip_t* z) const { zip_discard(z); }
};
using Zip = std::unique_ptr<zip_t, CloseZip>;

Result<std::string> entry(zip_t* z, const char* name) {
    zip_stat_t st;
    if (zip_stat(z, name, 0, &st) != 0)
        return failure(ErrorCode::unreadable, fmt::format("the project has no entry \"{}\"", name));
    if (st.size > kLargestEntry)
        return failure(ErrorCode::unreadable, fmt::format("entry \"{}\" is larger than 2 GiB", name));
    zip_file_t* f = zip_fopen(z, name, 0);
    if (!f)
        return failure(ErrorCode::unreadable, fmt::format("entry \"{}\" of the project is damaged", name));
    std::string s(st.size, '\0');
    const zip_int64_t n = zip_fread(f, s.data(), st.size);
    const bool sound = zip_fclose(f) == 0 && n == static_cast<zip_int64_t>(st.size);
    if (!sound)
        return failure(ErrorCode::unreadable, fmt::format("entry \"{}\" of the project is damaged", name));
    return s;
}

bool addEntry(zip_t* z, const char* name, const std::string& bytes) {
    zip_source_t* s = zip_source_buffer(z, bytes.data(), bytes.size(), 0);
    if (!s) return false;
    const zip_int64_t i = zip_file_add(z, name, s, ZIP_FL_OVERWRITE | ZIP_FL_ENC_UTF_8);
    if (i < 0) return zip_source_free(s), false;
    constexpr zip_uint16_t kTime = 0,
                           kDate = (1 << 5) | 1; // 1 January 1980: the same choices give the same bytes
    return zip_file_set_dostime(z, static_cast<zip_uint64_t>(i), kTime, kDate, 0) == 0;
}

} // namespace

bool isProject(const std::string& bytes) {
    return bytes.starts_with("PK\x03\x04");
}

Result<std::string> projectBytes(const ProjectContent& p) {
    const Json head{{"format", kFormat}, {"source_name", p.source_name}, {"choices", toJson(p.choices)}};
    const std::string text = head.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
    zip_error_t error;
    zip_error_init(&error);
    zip_source_t* buffer = zip_source_buffer_create(nullptr, 0, 0, &error);
    zip_t* z = buffer ? zip_open_from_source(buffer, ZIP_TRUNCATE, &error) : nullptr;
    if (!z) return failure(ErrorCode::impossible, "the project could not be packed");
    zip_source_keep(buffer);
    const bool ok = addEntry(z, "project.json", text) && addEntry(z, "source", p.source) && zip_close(z) == 0;
    std::string bytes;
    zip_stat_t st;
    if (ok && zip_source_stat(buffer, &st) == 0 && zip_source_open(buffer) == 0) {
        bytes.resize(st.size);
        zip_source_read(buffer, bytes.data(), st.size);
        zip_source_close(buffer);
    }
    if (!ok) zip_discard(z);
    zip_source_free(buffer);
    if (bytes.empty()) return failure(ErrorCode::impossible, "the project could not be packed");
    return bytes;
}

Result<ProjectContent> readProject(const std::string& bytes) {
    zip_error_t error;
    zip_error_init(&error);
    zip_source_t* buffer = zip_source_buffer_create(bytes.data(), bytes.size(), 0, &error);
    const Zip z(buffer ? zip_open_from_source(buffer, ZIP_RDONLY, &error) : nullptr);
    if (!z) {
        if (buffer) zip_source_free(buffer);
        return failure(ErrorCode::unreadable,
                       "the project file is damaged or cut off (its table of contents cannot be read)");
    }
    auto text = entry(z.get(), "project.json");
    if (!text) return tl::make_unexpected(text.error());
    auto source = entry(z.get(), "source");
    if (!source) return tl::make_unexpected(source.error());
    try {
        const Json j = Json::parse(*text);
        if (j.at("format").get<int>() > kFormat)
            return failure(ErrorCode::unreadable, "the project was saved by a newer version of the program");
        return ProjectContent{std::move(*source), j.value("source_name", "source.dxf"),
                              choicesFromJson(j.at("choices"))};
    } catch (const nlohmann::json::exception& e) {
        return failure(ErrorCode::unreadable, fmt::format("project.json inside the project: {}", e.what()));
    }
}

} // namespace prism
