#pragma once
#include "app/places/place.h"
#include "core/project/reading_preset.h"

#include <QComboBox>

namespace prism::app {

/// Reading presets: the one that fits is offered; keep the present choices as one, bring and send files.
class PresetBar final : public QWidget {
    Q_OBJECT
  public:
    PresetBar(Desk desk, QWidget* parent);
    void refresh();
    void keep();
    void bring();
    void send();

  private:
    void use(const ReadingPreset& p);
    std::optional<ReadingPreset> chosen() const;
    void tell(const Result<void>& r, const QString& what);

    Desk desk_;
    PresetShelf shelf_;
    std::vector<ReadingPreset> presets_;
    QComboBox* box_;
    QPushButton *use_, *more_;
};

} // namespace prism::app
