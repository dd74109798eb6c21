// Projects opened lately, with their pictures and what they hold, and the finished example.
#pragma once
#include <QImage>
#include <QWidget>

#include "cinnabar/desktop/workers/newest.h"

namespace cinnabar {

class Lately : public QWidget {
  Q_OBJECT
 public:
  explicit Lately(QWidget* parent);
  /// Looks at the files anew.
  void refresh();

 signals:
  void wanted(const QString& file);
  void exampleWanted();

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  Newest worker_;
};

}  // namespace cinnabar
