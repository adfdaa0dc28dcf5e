#include "app/places/sheet/preset_bar.h"

#include "app/window/ask_file.h"
#include "core/delivering/step_file.h"
#include "core/reading/read.h"

#include <QInputDialog>
#include <QMenu>
#include <QStandardPaths>

namespace prism::app {

PresetBar::PresetBar(Desk desk, QWidget* parent)
    : QWidget(parent), desk_(desk),
      shelf_((QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/presets").toStdString()) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    auto* label = new QLabel(tr("Reading preset"), this);
    label->setObjectName("quiet");
    box_ = new QComboBox(this);
    box_->setObjectName("presetBox");
    box_->setMinimumWidth(210);
    use_ = new QPushButton(tr("Use it"), this);
    use_->setObjectName("usePreset");
    use_->setToolTip(tr("Read this sheet with the preset's layers, roles, repairs and unit"));
    auto* keep = new QPushButton(tr("Keep these choices…"), this);
    keep->setObjectName("keepPreset");
    keep->setToolTip(
        tr("Keep layers, roles, repairs and unit under a name, for the next sheets of this office"));
    more_ = new QPushButton(tr("Files"), this);
    more_->setObjectName("presetFiles");
    auto* menu = new QMenu(more_);
    menu->addAction(tr("Bring a preset from a file…"), this, &PresetBar::bring);
    menu->addAction(tr("Send the preset to a file…"), this, &PresetBar::send);
    menu->addAction(tr("Throw the preset away"), this, [this] {
        if (const auto p = chosen()) tell(shelf_.remove(p->name), tr("The preset could not be thrown away"));
    });
    more_->setMenu(menu);
    for (QWidget* w : std::initializer_list<QWidget*>{label, box_, use_, keep, more_}) row->addWidget(w);
    connect(use_, &QPushButton::clicked, this, [this] {
        if (const auto p = chosen()) use(*p);
    });
    connect(keep, &QPushButton::clicked, this, &PresetBar::keep);
    refresh();
}

void PresetBar::refresh() {
    presets_ = shelf_.all();
    const bool any = desk_.session.hasSheet();
    const auto best = any ? shelf_.best(*desk_.session.model().source) : std::nullopt;
    const QString before = box_->currentData().toString();
    box_->clear();
    for (const ReadingPreset& p : presets_) {
        const QString name = QString::fromStdString(p.name);
        const int fit = any ? static_cast<int>(100 * likeness(p, *desk_.session.model().source)) : 0;
        box_->addItem(fit > 0 ? tr("%1 (%2 % of the layers)").arg(name).arg(fit) : name, name);
    }
    if (presets_.empty()) box_->addItem(tr("none kept yet"));
    const QString wanted = best ? QString::fromStdString(best->name) : before;
    if (const int i = box_->findData(wanted); i >= 0) box_->setCurrentIndex(i);
    const bool fits = best && any && withPreset(desk_.session.choices(), *best) != desk_.session.choices();
    box_->setEnabled(!presets_.empty());
    use_->setEnabled(!presets_.empty() && any);
    use_->setProperty("main", fits); // the layers are those of the preset, and it is not in use yet
    use_->setStyleSheet(use_->styleSheet());
}

std::optional<ReadingPreset> PresetBar::chosen() const {
    const int i = box_->currentIndex();
    return i >= 0 && i < static_cast<int>(presets_.size()) ? std::optional(presets_[i]) : std::nullopt;
}

void PresetBar::use(const ReadingPreset& p) {
    desk_.session.change(tr("Reading preset"), [p](Choices& c) { c = withPreset(c, p); });
}

void PresetBar::keep() {
    if (!desk_.session.hasSheet()) return;
    bool ok = false;
    const auto now = chosen();
    const QString name =
        QInputDialog::getText(this, tr("Keep these choices"),
                              tr("Name of the preset, as the office that drew the sheets"), QLineEdit::Normal,
                              now ? QString::fromStdString(now->name) : QString(), &ok)
            .trimmed();
    if (!ok || name.isEmpty()) return;
    tell(shelf_.keep(presetOf(name.toStdString(), desk_.session.model(), desk_.session.choices())),
         tr("The preset could not be kept"));
    if (const int i = box_->findData(name); i >= 0) box_->setCurrentIndex(i);
}

void PresetBar::bring() {
    const QString f =
        askFile(this, QFileDialog::AcceptOpen, tr("Bring a preset"), {}, tr("Reading presets (*.json)"), {});
    if (f.isEmpty()) return;
    const auto text = fileBytes(f.toStdString());
    const auto p = text ? presetFromText(*text) : tl::make_unexpected(text.error());
    tell(p ? shelf_.keep(*p) : Result<void>(tl::make_unexpected(p.error())),
         tr("The preset could not be brought in"));
}

void PresetBar::send() {
    const auto p = chosen();
    if (!p) return;
    const QString f =
        askFile(this, QFileDialog::AcceptSave, tr("Send the preset"),
                QString::fromStdString(p->name) + ".reading.json", tr("Reading presets (*.json)"), "json");
    if (!f.isEmpty())
        tell(writeAtomically(f.toStdString(), presetText(*p)), tr("The preset could not be written"));
}

void PresetBar::tell(const Result<void>& r, const QString& what) {
    if (!r) emit desk_.session.failed(what, sentence(r.error().message));
    refresh();
}

} // namespace prism::app
