#include "core/delivering/step_file.h"

#include "core/building/kernel.h"

#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <STEPControl_Reader.hxx>
#include <STEPControl_Writer.hxx>
#include <cstring>
#include <filesystem>
#include <fmt/format.h>

#include <fcntl.h>
#include <unistd.h>

namespace prism {
namespace {

/// The kernel prints to standard output unless told not to; that belongs to the batch door's JSON.
void quiet() {
    Message::DefaultMessenger()->ChangePrinters().Clear();
}

Result<void> renamed(const std::string& from, const std::string& to) {
    const int file = ::open(from.c_str(), O_RDONLY);
    if (file >= 0) ::fsync(file), ::close(file);
    std::error_code ec;
    std::filesystem::rename(from, to, ec);
    if (!ec) return {};
    std::filesystem::remove(from);
    return failure(ErrorCode::impossible, fmt::format("{}: cannot be written ({})", to, ec.message()));
}

std::string aside(const std::string& path) {
    return fmt::format("{}.part{}", path, ::getpid());
}

} // namespace

Result<void> writeStep(const TopoDS_Shape& shape, const std::string& path) {
    quiet();
    const std::string temporary = aside(path);
    const auto done = guarded<bool>([&]() -> bool {
        STEPControl_Writer writer;
        Interface_Static::SetCVal("write.step.unit", "MM");
        Interface_Static::SetCVal("write.step.schema", "AP214IS");
        Interface_Static::SetIVal("write.precision.mode", 0);
        if (writer.Transfer(shape, STEPControl_AsIs) != IFSelect_RetDone) return false;
        return writer.Write(temporary.c_str()) == IFSelect_RetDone;
    });
    if (done && *done) return renamed(temporary, path);
    std::error_code ec;
    std::filesystem::remove(temporary, ec);
    if (!done) return tl::make_unexpected(done.error());
    return failure(ErrorCode::impossible, fmt::format("{}: the STEP file cannot be written there", path));
}

Result<TopoDS_Shape> readStep(const std::string& path) {
    quiet();
    return guarded<TopoDS_Shape>([&]() -> TopoDS_Shape {
        STEPControl_Reader reader;
        if (reader.ReadFile(path.c_str()) != IFSelect_RetDone)
            throw KernelError(path + ": not a readable STEP file");
        reader.TransferRoots();
        return reader.OneShape();
    });
}

Result<void> writeAtomically(const std::string& path, const std::string& bytes) {
    const std::string temporary = aside(path);
    const int file = ::open(temporary.c_str(), O_WRONLY | O_CREAT | O_TRUNC, 0644);
    if (file < 0)
        return failure(ErrorCode::impossible,
                       fmt::format("{}: cannot be written ({})", path, std::strerror(errno)));
    size_t done = 0;
    while (done < bytes.size()) {
        const ssize_t n = ::write(file, bytes.data() + done, bytes.size() - done);
        if (n < 0) break;
        done += static_cast<size_t>(n);
    }
    ::close(file);
    if (done == bytes.size()) return renamed(temporary, path);
    std::filesystem::remove(temporary);
    return failure(ErrorCode::impossible,
                   fmt::format("{}: cannot be written ({})", path, std::strerror(errno)));
}

} // namespace prism
