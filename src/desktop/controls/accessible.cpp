#include "cinnabar/desktop/controls/accessible.h"

#include <QAccessible>
#include <QAccessibleWidget>
#include <QHash>
#include <algorithm>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/painted.h"

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

/// A painted widget whose parts are children, before those widgets that lie in it.
class AccessibleParts : public QAccessibleWidget {
 public:
  AccessibleParts(Painted* widget, QAccessible::Role role) : QAccessibleWidget(widget, role), told_(widget) {}
  ~AccessibleParts() override {
    for (const QAccessible::Id id : made_) QAccessible::deleteAccessibleInterface(id);
  }
  [[nodiscard]] std::vector<ToldPart> parts() const { return told_->parts(); }
  [[nodiscard]] QWidget* painted() const { return widget(); }

  [[nodiscard]] int childCount() const override { return count() + QAccessibleWidget::childCount(); }
  [[nodiscard]] QAccessibleInterface* child(int index) const override;
  [[nodiscard]] int indexOfChild(const QAccessibleInterface* child) const override;
  [[nodiscard]] QAccessibleInterface* childAt(int x, int y) const override {
    const auto list = parts();
    for (std::size_t i = 0; i < list.size(); ++i)
      if (list[i].place.contains(widget()->mapFromGlobal(QPoint(x, y)))) return child(static_cast<int>(i));
    return QAccessibleWidget::childAt(x, y);
  }
  [[nodiscard]] QAccessibleInterface* focusChild() const override {
    const auto list = parts();
    for (std::size_t i = 0; widget()->hasFocus() && i < list.size(); ++i)
      if (list[i].chosen) return child(static_cast<int>(i));
    return QAccessibleWidget::focusChild();
  }

 private:
  [[nodiscard]] int count() const { return static_cast<int>(parts().size()); }
  const Painted* told_;
  mutable std::vector<QAccessible::Id> made_;
};

class AccessiblePart : public QAccessibleInterface {
 public:
  AccessiblePart(AccessibleParts* of, int index) : of_(of), index_(index) {}
  [[nodiscard]] bool isValid() const override { return of_->isValid() && part().has_value(); }
  [[nodiscard]] QObject* object() const override { return nullptr; }
  [[nodiscard]] QWindow* window() const override { return of_->window(); }
  [[nodiscard]] QAccessibleInterface* parent() const override { return of_; }
  [[nodiscard]] QAccessibleInterface* child(int) const override { return nullptr; }
  [[nodiscard]] QAccessibleInterface* childAt(int, int) const override { return nullptr; }
  [[nodiscard]] int childCount() const override { return 0; }
  [[nodiscard]] int indexOfChild(const QAccessibleInterface*) const override { return -1; }
  [[nodiscard]] QString text(QAccessible::Text what) const override {
    const auto p = part();
    return !p                           ? QString()
           : what == QAccessible::Name  ? p->name
           : what == QAccessible::Value ? p->value
                                        : QString();
  }
  void setText(QAccessible::Text, const QString&) override {}
  [[nodiscard]] QRect rect() const override {
    const auto p = part();
    return p ? QRect(of_->painted()->mapToGlobal(p->place.topLeft()), p->place.size()) : QRect();
  }
  [[nodiscard]] QAccessible::Role role() const override {
    return of_->role() == QAccessible::Table ? QAccessible::Row : QAccessible::ListItem;
  }
  [[nodiscard]] QAccessible::State state() const override {
    QAccessible::State s;
    const auto p = part();
    s.selectable = s.focusable = true;
    s.selected = p && p->chosen;
    s.focused = s.selected && of_->painted()->hasFocus();
    s.invisible = !of_->painted()->isVisible();
    s.offscreen = p && !of_->painted()->rect().intersects(p->place);
    return s;
  }
  [[nodiscard]] int index() const { return index_; }

 private:
  [[nodiscard]] std::optional<ToldPart> part() const {
    auto list = of_->parts();
    return index_ < static_cast<int>(list.size())
               ? std::optional(std::move(list[static_cast<std::size_t>(index_)]))
               : std::nullopt;
  }
  AccessibleParts* of_;
  int index_;
};

QAccessibleInterface* AccessibleParts::child(int index) const {
  const int own = count();
  if (index < 0) return nullptr;
  if (index >= own) return QAccessibleWidget::child(index - own);
  while (static_cast<int>(made_.size()) <= index)
    made_.push_back(QAccessible::registerAccessibleInterface(
        new AccessiblePart(const_cast<AccessibleParts*>(this), static_cast<int>(made_.size()))));
  return QAccessible::accessibleInterface(made_[static_cast<std::size_t>(index)]);
}
int AccessibleParts::indexOfChild(const QAccessibleInterface* child) const {
  if (const auto* part = dynamic_cast<const AccessiblePart*>(child)) return part->index();
  const int at = QAccessibleWidget::indexOfChild(child);
  return at < 0 ? at : at + count();
}

QAccessibleInterface* made(const QString& kind, QObject* object) {
  static const QHash<QString, QAccessible::Role> roles{
      {"cinnabar::FloorView", QAccessible::Graphic},  {"cinnabar::LensView", QAccessible::Graphic},
      {"cinnabar::LadderView", QAccessible::Graphic}, {"cinnabar::SpotStrip", QAccessible::List},
      {"cinnabar::LightsPanel", QAccessible::List},   {"cinnabar::TakeTables", QAccessible::Table},
      {"cinnabar::LevelsPanel", QAccessible::List},   {"cinnabar::NextTake", QAccessible::Grouping},
      {"cinnabar::MoveShelf", QAccessible::List},     {"cinnabar::BoardCards", QAccessible::List},
      {"cinnabar::BriefSeen", QAccessible::List},     {"cinnabar::ProductDrawing", QAccessible::Graphic}};
  if (auto* number = qobject_cast<NumberField*>(object)) return new AccessibleNumber(number);
  const auto role = roles.constFind(kind);
  auto* widget = qobject_cast<QWidget*>(object);
  if (!widget || role == roles.constEnd()) return nullptr;
  if (auto* painted = dynamic_cast<Painted*>(object)) return new AccessibleParts(painted, *role);
  return new QAccessibleWidget(widget, *role);
}

}  // namespace

Painted::Painted(const QString& object, const QString& name, const QString& how, QWidget* parent)
    : QWidget(parent) {
  setObjectName(object);
  setAccessibleName(name);
  setAccessibleDescription(how);
  setFocusPolicy(Qt::StrongFocus);
}

void Painted::tellChosenPart() {
  if (!QAccessible::isActive()) return;
  const auto list = parts();
  const auto chosen = std::find_if(list.begin(), list.end(), [](const ToldPart& p) { return p.chosen; });
  if (chosen == list.end()) return;
  QAccessibleEvent event(this, hasFocus() ? QAccessible::Focus : QAccessible::Selection);
  event.setChild(static_cast<int>(chosen - list.begin()));
  QAccessible::updateAccessibility(&event);
}

void installAccessibility() { QAccessible::installFactory(made); }

}  // namespace cinnabar
