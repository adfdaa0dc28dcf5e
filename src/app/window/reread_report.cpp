#include "app/window/reread_report.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace prism::app {
namespace {

std::vector<std::vector<Cell>> rowsOf(const Reread& r) {
    std::vector<std::vector<Cell>> rows;
    for (const std::string& m : r.misfits)
        rows.push_back({Cell::state(theme::Glyph::warning, RereadReport::tr("Does not fit")),
                        Cell::of(sentence(m)),
                        {},
                        {}});
    for (const DimensionChange& d : r.difference.dimensions) {
        const QString what = d.before < 0  ? RereadReport::tr("Dimension added")
                             : d.after < 0 ? RereadReport::tr("Dimension removed")
                                           : RereadReport::tr("Dimension changed");
        rows.push_back({Cell::of(what), Cell::of(QString::fromStdString(d.handle)),
                        Cell::number(QString::fromStdString(d.text_before)),
                        Cell::number(QString::fromStdString(d.text_after))});
    }
    std::map<LineChange::Kind, std::pair<int, double>> lines;
    for (const LineChange& l : r.difference.lines) {
        auto& [n, by] = lines[l.kind];
        ++n, by = std::max(by, l.by);
    }
    for (const auto& [kind, n] : lines) {
        const QString what = kind == LineChange::Kind::added     ? RereadReport::tr("Lines added")
                             : kind == LineChange::Kind::removed ? RereadReport::tr("Lines removed")
                                                                 : RereadReport::tr("Lines moved");
        const QString by =
            n.second > 0 ? RereadReport::tr("by up to %1 on the sheet").arg(n.second, 0, 'f', 3) : QString();
        rows.push_back({Cell::of(what), Cell::of(by), {}, Cell::number(QString::number(n.first))});
    }
    return rows;
}

} // namespace

RereadReport::RereadReport(const Reread& r, Session& session, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("What the revised drawing brought"));
    resize(760, 420);
    auto* all = new QVBoxLayout(this);
    auto* lead = new QLabel(
        r.misfits.empty()
            ? tr("All work was carried over.")
            : tr("%1 of your choices no longer fit; the rest was carried over.").arg(r.misfits.size()),
        this);
    lead->setObjectName("lead");
    all->addWidget(lead);
    auto* table = new RowTable("rereadTable", {tr("What"), tr("Where"), tr("Before"), tr("Now")},
                               {170, 300, 110, 110}, this);
    table->setStretch(1);
    table->setRows(rowsOf(r));
    all->addWidget(table, 1);
    auto* row = new QHBoxLayout;
    auto* back = new QPushButton(tr("Go back to the old drawing"), this);
    back->setObjectName("rereadBack");
    auto* take = new QPushButton(tr("Go on with the new one"), this);
    take->setObjectName("rereadTake");
    take->setProperty("main", true);
    take->setDefault(true);
    row->addStretch(1);
    row->addWidget(back);
    row->addWidget(take);
    all->addLayout(row);
    connect(back, &QPushButton::clicked, this, [this, &session] { session.undo(), reject(); });
    connect(take, &QPushButton::clicked, this, &QDialog::accept);
}

} // namespace prism::app
