// A light's beam on paper: candela by direction in two planes through its axis, and lux at distances.
#pragma once
#include <QWidget>
#include <memory>
#include <optional>

#include "cinnabar/base/text.h"
#include "cinnabar/photometry/distribution.h"

namespace cinnabar {

class BeamPlot : public QWidget {
  Q_OBJECT
 public:
  explicit BeamPlot(QWidget* parent = nullptr);
  /// Nothing: the light's figures say no output.
  void show(const std::optional<LightOutput>& output, Units units);
  /// One row of the table: distance in metres, lux on the axis, and how wide it is at half (0: not known).
  struct Row {
    double distance, lux, width;
  };
  [[nodiscard]] std::vector<Row> rows() const;
  QSize sizeHint() const override { return {420, 220}; }

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  void paintTable(QPainter& p) const;
  [[nodiscard]] double candela(double vertical, double horizontal) const;
  std::optional<LightOutput> output_;
  Units units_ = Units::metric;
  double beam_ = 0, field_ = 0, scale_ = 1;
};

}  // namespace cinnabar
