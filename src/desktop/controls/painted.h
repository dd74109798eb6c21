// A widget that paints itself instead of being built of others.
#pragma once
#include <QWidget>
#include <vector>

namespace cinnabar {

/// A row, a card, a key: something of a painted widget that is chosen and has a name.
struct ToldPart {
  QString name, value{};
  QRect place{};  ///< in the widget
  bool chosen = false;
};

/// It takes the keyboard and shows that it has it, and it tells assistive programs its parts.
class Painted : public QWidget {
 public:
  /// `object` for tests, `name` and `how` (which keys do what) for people.
  Painted(const QString& object, const QString& name, const QString& how, QWidget* parent);
  /// Asked for whenever somebody wants to know.
  [[nodiscard]] virtual std::vector<ToldPart> parts() const { return {}; }

 protected:
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }
  /// To be called when another part was chosen.
  void tellChosenPart();
};

}  // namespace cinnabar
