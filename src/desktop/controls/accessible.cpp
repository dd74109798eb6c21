#include "cinnabar/desktop/controls/accessible.h"

#include <QAccessible>
#include <QAccessibleWidget>
#include <QHash>

#include "cinnabar/desktop/controls/controls.h"

namespace cinnabar {
namespace {

class AccessibleNumber : public QAccessibleWidget {
 public:
  explicit AccessibleNumber(NumberField* field) : QAccessibleWidget(field, QAccessible::SpinBox), field_(field) {}
  [[nodiscard]] QString text(QAccessible::Text what) const override {
    if (what == QAccessible::Name) return field_->spec().name;
    if (what == QAccessible::Value && field_->spec().text) return field_->spec().text(field_->spec().value);
    return QAccessibleWidget::text(what);
  }
  [[nodiscard]] QAccessible::State state() const override {
    QAccessible::State s = QAccessibleWidget::state();
    s.readOnly = !field_->spec().parse;
    s.editable = !s.readOnly;
    return s;
  }

 private:
  NumberField* field_;
};

QAccessibleInterface* made(const QString& kind, QObject* object) {
  static const QHash<QString, QAccessible::Role> roles{
      {"cinnabar::FloorView", QAccessible::Graphic},  {"cinnabar::LensView", QAccessible::Graphic},
      {"cinnabar::LadderView", QAccessible::Graphic}, {"cinnabar::SpotStrip", QAccessible::List},
      {"cinnabar::LightsPanel", QAccessible::List},   {"cinnabar::TakeTables", QAccessible::Table},
      {"cinnabar::LevelsPanel", QAccessible::List},   {"cinnabar::NextTake", QAccessible::Grouping}};
  if (auto* number = qobject_cast<NumberField*>(object)) return new AccessibleNumber(number);
  const auto role = roles.constFind(kind);
  auto* widget = qobject_cast<QWidget*>(object);
  return widget && role != roles.constEnd() ? new QAccessibleWidget(widget, *role) : nullptr;
}

}  // namespace

void installAccessibility() { QAccessible::installFactory(made); }

}  // namespace cinnabar
