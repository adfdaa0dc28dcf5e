#include "app/window/ask_file.h"

namespace prism::app {

QString askFile(QWidget* parent, QFileDialog::AcceptMode mode, const QString& title, const QString& start,
                const QString& filter, const QString& suffix) {
    QFileDialog d(parent, title, start, filter);
    d.setOption(QFileDialog::DontUseNativeDialog);
    d.setAcceptMode(mode);
    d.setFileMode(mode == QFileDialog::AcceptOpen ? QFileDialog::ExistingFile : QFileDialog::AnyFile);
    d.setDefaultSuffix(suffix);
    if (mode == QFileDialog::AcceptSave) d.selectFile(start);
    return d.exec() == QDialog::Accepted && !d.selectedFiles().isEmpty() ? d.selectedFiles().first()
                                                                         : QString();
}

} // namespace prism::app
