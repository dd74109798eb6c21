// The bench Effects: the effects of the shot in hand, what each is measured by, what it takes, and what can hurt.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/ways/solve_panel.h"
#include "cinnabar/desktop/workers/effects_seen.h"
#include "cinnabar/effects/kinds.h"

class QComboBox;
class QScrollArea;
class QStackedWidget;
class QVBoxLayout;

namespace cinnabar {

class NumberGrid;

class EffectsPanel : public QWidget {
  Q_OBJECT
 public:
  EffectsPanel(Session* session, Foresight* foresight, EffectsSeen* seen, QWidget* parent = nullptr);
  /// The effect in hand, by its place in the shot's list; nothing where there is none.
  [[nodiscard]] const Effect* effect() const;
  [[nodiscard]] std::size_t index() const { return index_; }

 protected:
  void paintEvent(QPaintEvent*) override;
  void showEvent(QShowEvent*) override;

 private:
  void connectParts();
  /// A number of the effect: how it is shown, and which value of the document it is.
  struct Shown {
    NumberField::Spec spec;
    std::string member;  ///< of the effect
    int place = -1;      ///< of the member's three
  };
  [[nodiscard]] QWidget* planned();
  void refresh();
  [[nodiscard]] std::vector<Shown> numbers(const Effect& effect) const;
  void tell();
  void set(std::size_t field, double value, bool keep);
  void add(const EffectKind& kind);
  void addMenu();
  void takeAway();
  void timeBy(const QString& event);
  [[nodiscard]] std::string path() const;  ///< of the effect in hand

  Session* session_;
  EffectsSeen* seen_;
  std::size_t index_ = 0;
  QComboBox *which_, *liquid_, *thing_, *event_;
  WordButton *add_, *takeAway_, *find_, *read_;
  QStackedWidget* body_;  ///< what is planned and what comes of it, or the ways that are looked for
  SolvePanel* ways_;
  NumberGrid* fields_;
  std::vector<Shown> shown_;
  QScrollArea* told_;
  QVBoxLayout* lines_;
  PlainLabel *takes_, *before_;
};

}  // namespace cinnabar
