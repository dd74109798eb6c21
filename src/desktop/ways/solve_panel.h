// What is solved: a move of the camera, the turntable, a light or the film, or an effect in time; what is asked of
// it, and the ways to it.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/ways/asked_numbers.h"
#include "cinnabar/desktop/ways/way_cards.h"
#include "cinnabar/forecast/solvers/solvers.h"

class QComboBox;

namespace cinnabar {

class SolvePanel : public QWidget {
  Q_OBJECT
 public:
  /// `name` tells its parts from those of others: "NAMEPanel", "NAMEKind", "NAMELight", "NAMEWhat", "NAMEFind".
  SolvePanel(const QString& name, Session* session, Foresight* foresight, QWidget* parent);
  /// The kinds that may be asked; `effect` is the id of the effect that they are about, if any.
  void offerKinds(std::vector<SolverKind> kinds, const std::string& effect = {});
  /// A title above, and a few words beside it.
  void setHead(const QString& title, const QString& words);
  [[nodiscard]] WayCards* cards() const { return cards_; }
  [[nodiscard]] SolveRequest request() const;

 protected:
  void paintEvent(QPaintEvent*) override;
  void showEvent(QShowEvent*) override;

 private:
  [[nodiscard]] const SolverKind* kind() const;
  void refresh();
  void find();

  Session* session_;
  std::vector<SolverKind> kinds_;
  std::string effect_;
  QString title_, words_;
  QComboBox *kind_, *light_;
  AskedNumbers* numbers_;
  PlainLabel* what_;
  WordButton* find_;
  WayCards* cards_;
};

}  // namespace cinnabar
