#include "cinnabar/desktop/controls/controls.h"

#include <QFontMetricsF>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMouseEvent>
#include <QWheelEvent>

#include "cinnabar/desktop/theme/theme.h"

namespace cinnabar {

PlainLabel::PlainLabel(const QString& text, QWidget* parent) : QLabel(parent) {
  setTextFormat(Qt::PlainText);
  setText(text);
}

void Panel::paintEvent(QPaintEvent*) {
  QPainter p(this);
  drawPanel(p, rect());
}

WordButton::WordButton(const QString& text, Look look, QWidget* parent) : QAbstractButton(parent), look_(look) {
  setText(text);
  setAccessibleName(text);
  setCheckable(look != Look::plain);
  setFocusPolicy(Qt::TabFocus);
  setCursor(Qt::PointingHandCursor);
  setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

QSize WordButton::sizeHint() const {
  if (look_ == Look::small)
    return {static_cast<int>(QFontMetricsF(textFont(11)).horizontalAdvance(text())) + 12, 20};
  const double px = look_ == Look::page ? 13 : 12;
  const int width = static_cast<int>(QFontMetricsF(textFont(px, true)).horizontalAdvance(text())) +
                    (look_ == Look::page ? 24 : 26);
  return {width, look_ == Look::page ? 44 : look_ == Look::chip ? 20 : 24};
}

void WordButton::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  const QRectF box = rect();
  const bool on = isChecked();
  if (look_ == Look::page) {
    drawText(p, box.adjusted(0, 0, 0, 4), Qt::AlignCenter, text(), textFont(13, on),
             on             ? t.ink
             : underMouse() ? t.ink
                            : t.quiet);
    if (on) p.fillRect(QRectF(6, box.height() - 6, box.width() - 12, 3), t.accent);
  } else {
    const bool boxed = look_ != Look::bench;
    if (on || boxed) {
      p.setPen(on ? QPen(t.selected, 1) : QPen(underMouse() ? t.quiet : t.line, 1));
      p.setBrush(on ? t.selected : t.panel);
      p.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 2, 2);
    }
    const QColor ink = on ? t.onSelected : look_ == Look::plain && isEnabled() ? t.ink : t.quiet;
    drawText(p, box, Qt::AlignCenter, text(), textFont(look_ == Look::small ? 11 : 12, on && look_ == Look::bench),
             ink);
  }
  if (hasFocus()) drawFocus(p, box.adjusted(1, look_ == Look::page ? 8 : 1, -1, look_ == Look::page ? -8 : -1));
}

Switch::Switch(QWidget* parent) : QAbstractButton(parent) {
  setCheckable(true);
  setFocusPolicy(Qt::TabFocus);
  setCursor(Qt::PointingHandCursor);
}

void Switch::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  p.setPen(QPen(t.line, 1));
  p.setBrush(t.track);
  p.drawRoundedRect(QRectF(0.5, 1.5, 34, 16), 8, 8);
  p.setPen(Qt::NoPen);
  p.setBrush(isChecked() ? t.ink : t.quiet);
  p.drawEllipse(QPointF(isChecked() ? 25.5 : 9.5, 9.5), 6, 6);
  if (hasFocus()) drawFocus(p, rect());
}

NumberField::NumberField(QWidget* parent) : QWidget(parent) {
  setFocusPolicy(Qt::StrongFocus);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void NumberField::setSpec(const Spec& spec) {
  const bool dragging = dragStart_.has_value();
  const double value = dragging ? dragged_ : spec.value;
  spec_ = spec;
  spec_.value = value;
  setObjectName("field-" + spec.id);
  setAccessibleName(spec.name);
  setAccessibleDescription(spec.text(spec_.value));
  setCursor(writable() ? Qt::SizeHorCursor : Qt::ArrowCursor);
  setFocusPolicy(writable() ? Qt::StrongFocus : Qt::NoFocus);
  update();
}

void NumberField::paintEvent(QPaintEvent*) {
  if (!spec_.text) return;
  QPainter p(this);
  const Theme& t = theme();
  drawText(p, QRectF(0, 0, width(), 14), Qt::AlignLeft | Qt::AlignVCenter, spec_.name, textFont(11), t.quiet);
  const QString shown = spec_.text(spec_.value);
  double px = 13;  // a number that is cut says something else: it is written smaller first
  while (px > 9 && QFontMetricsF(numberFont(px)).horizontalAdvance(shown) > width() - 2) --px;
  drawText(p, QRectF(0, 14, width() - 2, 17), Qt::AlignLeft | Qt::AlignVCenter, shown, numberFont(px), t.ink);
  if (writable()) {
    p.setPen(QPen(hasFocus() || underMouse() ? t.accent : t.line, 1));
    p.drawLine(QPointF(0, 32.5), QPointF(width() - 6, 32.5));
  }
}

void NumberField::edit(const QString& start) {
  if (!writable()) return;
  if (!editor_) {
    editor_ = new QLineEdit(this);
    editor_->setObjectName("editor");
    // A line edit passes Enter on: it must not open the editor again.
    connect(editor_, &QLineEdit::returnPressed, this, [this] { entering_ = true; });
    connect(editor_, &QLineEdit::editingFinished, this, [this] {
      if (!editor_->isVisible()) return;
      const QString typed = editor_->text();
      const auto value = spec_.parse(typed);
      const bool unchanged = typed == spec_.text(spec_.value);
      editor_->hide();
      setFocus();
      if (unchanged) return;
      if (value)
        emit entered(*value);
      else
        emit refused(tr("%1: \"%2\" cannot be read; give a number as \"%3\"")
                         .arg(spec_.name, typed, spec_.text(spec_.value)));
    });
  }
  editor_->setAccessibleName(spec_.name);
  editor_->setGeometry(0, 12, width() - 4, 21);
  editor_->setText(start.isEmpty() ? spec_.text(spec_.value) : start);
  editor_->show();
  editor_->setFocus();
  if (start.isEmpty())
    editor_->selectAll();
  else
    editor_->end(false);
}

void NumberField::mousePressEvent(QMouseEvent* event) {
  if (!writable() || event->button() != Qt::LeftButton) return;
  dragStart_ = event->position().x();
  startValue_ = dragged_ = spec_.value;
  moved_ = false;
}
void NumberField::mouseMoveEvent(QMouseEvent* event) {
  if (!dragStart_) return;
  const double steps = std::round((event->position().x() - *dragStart_) / 4.0);
  if (steps == 0 && !moved_) return;
  moved_ = true;
  dragged_ = startValue_ + steps * spec_.step;
  spec_.value = dragged_;
  emit previewed(dragged_);
  update();
}
void NumberField::mouseReleaseEvent(QMouseEvent*) {
  if (!dragStart_) return;
  dragStart_.reset();
  if (moved_)
    emit entered(dragged_);
  else
    edit({});
}
void NumberField::wheelEvent(QWheelEvent* event) {
  if (!writable() || !hasFocus()) return event->ignore();
  emit entered(spec_.value + (event->angleDelta().y() > 0 ? spec_.step : -spec_.step));
}
void NumberField::keyPressEvent(QKeyEvent* event) {
  const double scale = event->modifiers() & Qt::ShiftModifier ? 10.0 : 1.0;
  if (!writable()) return QWidget::keyPressEvent(event);
  if (event->key() == Qt::Key_Up) return emit entered(spec_.value + scale * spec_.step);
  if (event->key() == Qt::Key_Down) return emit entered(spec_.value - scale * spec_.step);
  const bool enter = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
  if (enter && std::exchange(entering_, false)) return;
  if (enter || event->key() == Qt::Key_F2) return edit({});
  const QString typed = event->text();
  if (!typed.isEmpty() && (typed[0].isDigit() || typed[0] == '-' || typed[0] == '.') &&
      !(event->modifiers() & Qt::ControlModifier))
    return edit(typed);
  QWidget::keyPressEvent(event);
}

}  // namespace cinnabar
