// A product in elevation to scale, with its measures, label and numbered features; and beside it the product as
// the tracer sees it, turned by hand.
#pragma once
#include <QImage>
#include <QWidget>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/newest.h"

namespace cinnabar {

class ProductDrawing : public QWidget {
  Q_OBJECT
 public:
  ProductDrawing(Session* session, QWidget* parent = nullptr);
  void show(std::size_t product, std::optional<std::size_t> feature);
  /// Where a feature's mark is; nothing where there is none.
  [[nodiscard]] QPointF mark(std::size_t feature) const;
  QSize sizeHint() const override { return {230, 300}; }

 signals:
  void featureChosen(int feature);
  /// A feature dragged to a height and a bearing on the product.
  void featureMoved(int feature, double height, double bearing_deg);

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;

 private:
  struct Frame {
    double scale, x, y;  ///< pixels a metre; the axis; the foot
  };
  [[nodiscard]] Frame frame() const;
  [[nodiscard]] const Product* product() const;
  Session* session_;
  std::size_t index_ = 0;
  std::optional<std::size_t> feature_;
  int dragged_ = -1;
  QPointF draggedTo_;
};

class ProductPicture : public Painted {
  Q_OBJECT
 public:
  ProductPicture(Session* session, QWidget* parent = nullptr);
  void show(std::size_t product);
  [[nodiscard]] double turn() const { return turn_; }
  [[nodiscard]] bool made() const { return !image_.isNull(); }
  QSize sizeHint() const override { return {180, 240}; }

 protected:
  void showEvent(QShowEvent*) override { ask(); }
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  void ask();
  Session* session_;
  std::size_t index_ = 0;
  double turn_ = 0, from_ = 0;
  QPointF pressed_;
  QImage image_;
  std::shared_ptr<const Product> shown_;
  double shownTurn_ = 1e9;
  Newest worker_;  // last: it uses the others
};

/// A plain studio for one product: a grey sweep and two soft lights, the lens square on.
[[nodiscard]] std::pair<Project, Shot> productStudio(const Project& project, const Product& product,
                                                     double turn_deg);

}  // namespace cinnabar
