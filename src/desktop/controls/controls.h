// Small controls that belong to the pictures of this program: words that switch, numbers that are typed, dragged
// or stepped, chips and a switch.
#pragma once
#include <QAbstractButton>
#include <QLabel>
#include <QWidget>
#include <functional>
#include <optional>

class QLineEdit;

namespace cinnabar {

/// A label whose text is never read as markup: people's own words stand in most of them.
class PlainLabel : public QLabel {
  Q_OBJECT
 public:
  explicit PlainLabel(const QString& text, QWidget* parent = nullptr);
  explicit PlainLabel(QWidget* parent = nullptr) : PlainLabel(QString(), parent) {}
};

/// A panel that others stand on.
class Panel : public QWidget {
  Q_OBJECT
 public:
  using QWidget::QWidget;

 protected:
  void paintEvent(QPaintEvent*) override;
};

/// A word of the masthead or the benches; checked is the present one.
class WordButton : public QAbstractButton {
  Q_OBJECT
 public:
  enum class Look { page, bench, chip, small, plain };  ///< small: a chip where many stand in a row
  WordButton(const QString& text, Look look, QWidget* parent = nullptr);
  QSize sizeHint() const override;

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  Look look_;
};

/// The Blackout switch.
class Switch : public QAbstractButton {
  Q_OBJECT
 public:
  explicit Switch(QWidget* parent = nullptr);
  QSize sizeHint() const override { return {36, 20}; }

 protected:
  void paintEvent(QPaintEvent*) override;
};

/// A number with its name: click or Enter types it, the wheel and arrow keys step it, dragging sideways moves it.
class NumberField : public QWidget {
  Q_OBJECT
 public:
  explicit NumberField(QWidget* parent = nullptr);

  struct Spec {
    QString name;  ///< "Distance"
    QString id;    ///< for tests: "distance"
    double value = 0;
    double step = 0.01;
    std::function<QString(double)> text;                         ///< as shown
    std::function<std::optional<double>(const QString&)> parse;  ///< as typed; none: read only
  };
  void setSpec(const Spec& spec);
  [[nodiscard]] const Spec& spec() const { return spec_; }
  QSize sizeHint() const override { return {100, 34}; }

 signals:
  void previewed(double value);
  void entered(double value);
  void refused(const QString& text);

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void wheelEvent(QWheelEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

 private:
  void edit(const QString& start);
  [[nodiscard]] bool writable() const { return static_cast<bool>(spec_.parse); }
  Spec spec_;
  QLineEdit* editor_ = nullptr;
  std::optional<double> dragStart_;
  double startValue_ = 0, dragged_ = 0;
  bool moved_ = false, entering_ = false;
};

}  // namespace cinnabar
