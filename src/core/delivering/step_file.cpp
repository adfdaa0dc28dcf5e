#include "core/delivering/step_file.h"

#include "core/base/files.h"
#include "core/building/kernel.h"

#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <STEPControl_Reader.hxx>
#include <STEPControl_Writer.hxx>
#include <fmt/format.h>

namespace prism {
namespace {

/// The kernel prints to standard output unless told not to; that belongs to the batch door's JSON.
void quiet() {
    Message::DefaultMessenger()->ChangePrinters().Clear();
}

} // namespace

Result<void> writeStep(const TopoDS_Shape& shape, const std::string& path) {
    quiet();
    const PassingFile passing; // the kernel writes to files only
    if (passing.path().empty())
        return failure(ErrorCode::impossible,
                       "no room to prepare the STEP file in the folder for passing files");
    const auto done = guarded<bool>([&]() -> bool {
        STEPControl_Writer writer;
        Interface_Static::SetCVal("write.step.unit", "MM");
        Interface_Static::SetCVal("write.step.schema", "AP214IS");
        Interface_Static::SetIVal("write.precision.mode", 0);
        if (writer.Transfer(shape, STEPControl_AsIs) != IFSelect_RetDone) return false;
        return writer.Write(passing.path().c_str()) == IFSelect_RetDone;
    });
    if (!done) return tl::make_unexpected(done.error());
    const auto bytes = *done ? fileBytes(passing.path()) : failure(ErrorCode::impossible, "");
    if (!bytes) return failure(ErrorCode::impossible, fmt::format("{}: the solid gives no STEP file", path));
    return writeAtomically(path, *bytes);
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

} // namespace prism
