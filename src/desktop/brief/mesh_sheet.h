// A product from a mesh of another program: its unit and which way is up are asked for, and its height is checked
// against what was measured by hand, before it is taken in.
#pragma once
#include <QDialog>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/scene/mesh_file.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QPlainTextEdit;
class QPushButton;

namespace cinnabar {

class MeshSheet : public QDialog {
  Q_OBJECT
 public:
  /// `worker` belongs to `host` and outlives the sheet, so that closing it waits for nothing.
  MeshSheet(Session* session, Newest* worker, const QString& file, QWidget* host);

 signals:
  void added(std::size_t product);

 private:
  void read(const QString& file);
  /// Does `work` beside the window, then `then` with what came of it, if the sheet is still there.
  template <class Work, class Then>
  void beside(Work work, Then then);
  void inspect();
  void tell(const MeshReport& report);
  void add();
  [[nodiscard]] std::optional<MeshChoice> choice() const;
  Session* session_;
  std::shared_ptr<const MeshFile> mesh_;
  QComboBox *unit_, *up_;
  QLineEdit *height_, *name_;
  QCheckBox* scaled_;
  QLabel* size_;
  QPlainTextEdit* remarks_;
  QPushButton* add_;
  Newest* worker_;
};

}  // namespace cinnabar
