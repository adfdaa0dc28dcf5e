#pragma once
#include "app/places/place.h"

#include <QComboBox>

namespace prism::app {

/// The proof and the ways out: solid and project.
class DeliverPlace final : public Place {
    Q_OBJECT
  public:
    DeliverPlace(Desk desk, QWidget* parent);
    PlaceState state() const override;

  signals:
    void exportWanted();
    void saveWanted();

  protected:
    void refresh() override;

  private:
    void takeMaterial();
    void forgetMaterial();
    void listMaterial(const Material& m, const QString& kind);

    RowTable *proof_, *measures_;
    QPushButton *export_, *forget_;
    QComboBox* material_;
};

} // namespace prism::app
