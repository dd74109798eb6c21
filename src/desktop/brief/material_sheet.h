// What a part, or the label, is made of: ready materials, each as the tracer sees it, and what lies on them.
#pragma once
#include <QDialog>
#include <QImage>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/project/making/materials.h"

class QComboBox;
class QLabel;
class QListWidget;
class QPushButton;

namespace cinnabar {

/// Traced bobbins of the ready materials, made once for all sheets.
class Swatches : public QObject {
  Q_OBJECT
 public:
  explicit Swatches(QObject* parent) : QObject(parent) {}
  [[nodiscard]] QImage of(const std::string& id) const;
  /// Traces those that are missing, one after another.
  void make();
  static constexpr int wide = 84, tall = 96;  ///< pixels

 signals:
  void made(const QString& id);

 private:
  std::map<std::string, QImage> images_;
  Newest worker_;  // last: it uses the others
};

class MaterialSheet : public QDialog {
  Q_OBJECT
 public:
  /// For product `index` of the document, `part` of it in hand; past the last part is the label.
  MaterialSheet(Session* session, Swatches* swatches, std::size_t index, int part, QWidget* host);

 private:
  void connectParts(QPushButton* takeButton, QPushButton* leave);
  void refresh();
  void take();
  [[nodiscard]] const Json* product() const;
  [[nodiscard]] bool is_label() const;
  [[nodiscard]] Json material() const;  ///< of the part in hand, as it is
  [[nodiscard]] std::string path() const;
  Session* session_;
  Swatches* swatches_;
  std::size_t index_;
  QComboBox *part_, *cover_, *much_;
  QListWidget* list_;
  QLabel* words_;
};

}  // namespace cinnabar
