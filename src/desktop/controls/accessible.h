// What assistive programs are told of the widgets that are painted by hand: their roles, the numbers they hold,
// and their parts.
#pragma once
#include <QRect>
#include <QString>
#include <vector>

class QWidget;

namespace cinnabar {

/// A row, a card, a key: something of a painted widget that is chosen and has a name.
struct ToldPart {
  QString name, value{};
  QRect place{};  ///< in the widget
  bool chosen = false;
};

/// A painted widget that tells its parts. They are asked for whenever somebody wants to know.
class TellsParts {
 public:
  TellsParts() = default;
  TellsParts(const TellsParts&) = delete;
  TellsParts& operator=(const TellsParts&) = delete;
  virtual ~TellsParts() = default;
  [[nodiscard]] virtual std::vector<ToldPart> parts() const = 0;
};

/// To be called when another part was chosen, or what a part says has changed.
void tellChosenPart(QWidget* widget);

/// Once, before the first window.
void installAccessibility();

}  // namespace cinnabar
