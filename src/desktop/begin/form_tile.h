// A form of product to choose from: its outline as it is built, and its name.
#pragma once
#include <QAbstractButton>
#include <QPolygonF>
#include <vector>

#include "cinnabar/project/document/document.h"

namespace cinnabar {

/// Outlines of a product's parts seen from the front, metres, Y up.
[[nodiscard]] std::vector<QPolygonF> front_outlines(const Json& product);

class FormTile : public QAbstractButton {
  Q_OBJECT
 public:
  FormTile(const QString& name, std::vector<QPolygonF> outlines, QWidget* parent);
  QSize sizeHint() const override { return {64, 108}; }

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  std::vector<QPolygonF> outlines_;
};

}  // namespace cinnabar
