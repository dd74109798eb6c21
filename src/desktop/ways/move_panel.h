// Moves that are solved: what is asked of the camera, the turntable, a light or the film, and the ways to it.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/ways/asked_numbers.h"
#include "cinnabar/desktop/ways/way_cards.h"
#include "cinnabar/forecast/solvers/solvers.h"

class QComboBox;

namespace cinnabar {

class MovePanel : public QWidget {
  Q_OBJECT
 public:
  MovePanel(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  [[nodiscard]] WayCards* cards() const { return cards_; }
  [[nodiscard]] SolveRequest request() const;

 protected:
  void paintEvent(QPaintEvent*) override;
  void showEvent(QShowEvent*) override;

 private:
  [[nodiscard]] const SolverKind& kind() const;
  void refresh();
  void find();

  Session* session_;
  QComboBox *kind_, *light_;
  AskedNumbers* numbers_;
  std::vector<std::pair<QString, QString>> lights_;  ///< as they are told: name and id
  PlainLabel* what_;
  WordButton* find_;
  WayCards* cards_;
};

}  // namespace cinnabar
