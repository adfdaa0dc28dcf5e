#pragma once
#include "app/session/session.h"
#include "app/tables/row_table.h"

#include <QDialog>

namespace prism::app {

/// What a revised drawing brought: lines added, removed, moved, dimensions old and new, and what no longer
/// fits.
class RereadReport final : public QDialog {
    Q_OBJECT
  public:
    RereadReport(const Reread& r, Session& session, QWidget* parent);
};

} // namespace prism::app
