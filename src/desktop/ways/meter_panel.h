// The point meter: pins set in the picture, what is forecast there, what a hand meter reads, and a lamp made to
// fit it.
#pragma once
#include <QLineEdit>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/number_grid.h"
#include "cinnabar/desktop/ways/pin_list.h"
#include "cinnabar/desktop/ways/socket_line.h"
#include "cinnabar/desktop/workers/meter_link.h"
#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/render/overlays.h"
#include "cinnabar/scene/view.h"

class QComboBox;

namespace cinnabar {

class MeterPanel : public QWidget {
  Q_OBJECT
 public:
  MeterPanel(Session* session, QWidget* parent = nullptr);
  /// A pin where the picture was read; nothing was where nothing is given.
  void takePlace(const std::optional<PlaceMet>& met);
  [[nodiscard]] const PinList& list() const { return *list_; }
  [[nodiscard]] const MeterLink& link() const { return link_; }

 signals:
  void placeWanted();
  void pinChosen(int pin);

 protected:
  void paintEvent(QPaintEvent*) override;
  void showEvent(QShowEvent*) override { lookAtSetup(); }

 private:
  [[nodiscard]] QWidget* tools();
  void connectParts();
  void lookAtSetup();
  void refresh();
  void say(const QString& text, bool refusal);
  [[nodiscard]] const Pin* pin() const;
  /// How the product stands that carries the chosen pin; nothing where none does.
  [[nodiscard]] std::optional<ProductPose> carried() const;
  [[nodiscard]] std::string path() const;  ///< of the chosen pin
  void put(std::size_t field, double value);
  void remove();
  void calibrate();
  void stopFitting();
  void take();

  Session* session_;
  MeterLink link_;
  PinList* list_;
  QLineEdit* name_;
  SocketLine* socket_;
  NumberGrid* numbers_;
  QComboBox* light_;
  WordButton *set_, *remove_, *read_, *calibrate_, *take_;
  PlainLabel* words_;
  Session::Values found_;  ///< of the last calibration, until anything changes
  QString foundTitle_;
  QString told_;
  bool refusal_ = false, fitting_ = false;
  int asked_ = 0;           ///< calibrations
  Newest reader_, fitter_;  // last: they use the others
};

}  // namespace cinnabar
