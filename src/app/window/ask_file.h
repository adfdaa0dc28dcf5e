#pragma once
#include <QFileDialog>

namespace prism::app {

/// File dialogs of our own toolkit: the same everywhere, and reachable by the same keys. Empty when left.
QString askFile(QWidget* parent, QFileDialog::AcceptMode mode, const QString& title, const QString& start,
                const QString& filter, const QString& suffix);

} // namespace prism::app
