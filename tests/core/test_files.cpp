#include "support/samples.h"

#include "core/base/files.h"
#include "core/project/document.h"

#include <filesystem>
#include <fstream>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace prism;
using namespace prism::test;
namespace fs = std::filesystem;

namespace {

std::string folder(const std::string& name) {
    const std::string path = temporary(name);
    fs::remove_all(path);
    fs::create_directories(path);
    return path;
}

int entriesOf(const std::string& path) {
    return static_cast<int>(std::distance(fs::directory_iterator(path), fs::directory_iterator()));
}

} // namespace

TEST_CASE("writing follows a link, keeps access rights and leaves nothing beside") {
    const std::string in = folder("files");
    REQUIRE(writeAtomically(in + "/real", "one"));
    ::chmod((in + "/real").c_str(), 0640);
    fs::create_symlink("real", in + "/link");
    REQUIRE(writeAtomically(in + "/link", "two"));
    CHECK(fs::is_symlink(in + "/link"));
    CHECK(bytesOf(in + "/real") == "two");
    struct stat s {};
    REQUIRE(::stat((in + "/real").c_str(), &s) == 0);
    CHECK((s.st_mode & 0777) == 0640);
    CHECK(entriesOf(in) == 2);
}

TEST_CASE("a pipe is written to, not replaced by a file") {
    const std::string in = folder("pipes"), pipe = in + "/pipe", got = in + "/got";
    REQUIRE(::mkfifo(pipe.c_str(), 0600) == 0);
    const pid_t reader = ::fork();
    if (reader == 0) {
        std::ifstream from(pipe, std::ios::binary);
        std::ofstream(got, std::ios::binary) << from.rdbuf() << std::flush;
        ::_exit(0);
    }
    REQUIRE(writeAtomically(pipe, "through"));
    ::waitpid(reader, nullptr, 0);
    CHECK(bytesOf(got) == "through");
    CHECK(fs::is_fifo(pipe));
}

TEST_CASE("what a killed writer left is cleared away, what a living one is writing is not") {
    const std::string in = folder("left");
    const pid_t gone = ::fork();
    if (gone == 0) ::_exit(0);
    ::waitpid(gone, nullptr, 0);
    std::ofstream(in + "/.a.part" + std::to_string(gone)) << "half";
    std::ofstream(in + "/.a.part" + std::to_string(::getppid())) << "half of another";
    std::ofstream(in + "/.b.part" + std::to_string(gone)) << "not ours";
    REQUIRE(writeAtomically(in + "/a", "whole"));
    CHECK_FALSE(fs::exists(in + "/.a.part" + std::to_string(gone)));
    CHECK(fs::exists(in + "/.a.part" + std::to_string(::getppid())));
    CHECK(fs::exists(in + "/.b.part" + std::to_string(gone)));
}

TEST_CASE("a file that somebody else changed is not written over") {
    const std::string path = folder("stamps") + "/a";
    REQUIRE(writeAtomically(path, "mine", std::optional<FileStamp>()));
    const auto stamp = stampOfFile(path);
    REQUIRE(stamp);
    std::ofstream(path) << "yours";
    const auto r = writeAtomically(path, "mine again", stamp);
    REQUIRE_FALSE(r);
    CHECK(r.error().code == ErrorCode::conflict);
    CHECK(bytesOf(path) == "yours");
    CHECK(sameFile(path, fs::path(path).parent_path().string() + "/./a"));
    CHECK_FALSE(sameFile(path, path + "b"));
}

TEST_CASE("two documents on one project: the second to save is told, and nothing is lost") {
    NoProgress quiet;
    const std::string path = folder("two") + "/p.uprism";
    Document first = opened(demo("roller-bracket.dxf"));
    REQUIRE(first.save(path));
    Document second = opened(path);
    Choices c = first.choices();
    c.repairs.gap = 0.7;
    REQUIRE(first.apply("Gap", c, quiet));
    REQUIRE(first.save(path));
    const auto r = second.save(path);
    REQUIRE_FALSE(r);
    CHECK(r.error().code == ErrorCode::conflict);
    CHECK(opened(path).choices().repairs.gap == 0.7);
    CHECK(second.save(path, true));
    CHECK_FALSE(opened(path).choices().repairs.gap);
    std::ofstream(path + ".dxf") << "a drawing";
    CHECK_FALSE(second.save(path + ".dxf")); // no project: not written over
}

TEST_CASE("a project's bytes do not hang on the time zone") {
    Document d = opened(demo("roller-bracket.dxf"));
    const std::string in = folder("zones");
    const char* was = std::getenv("TZ");
    const std::string before = was ? was : "";
    for (const char* zone : {"UTC", "Pacific/Auckland"}) {
        ::setenv("TZ", zone, 1);
        ::tzset();
        REQUIRE(d.save(in + "/" + fs::path(zone).filename().string()));
    }
    was ? ::setenv("TZ", before.c_str(), 1) : ::unsetenv("TZ");
    ::tzset();
    CHECK(bytesOf(in + "/UTC") == bytesOf(in + "/Auckland"));
}
