// Paper before it is printed: the pages as they will be, then printed or written as a PDF.
#pragma once
#include <QDialog>

#include "cinnabar/desktop/paper/shot_cards.h"

class QLabel;
class QPrinter;
class QPrintPreviewWidget;
class QPushButton;

namespace cinnabar {

class PreviewDialog : public QDialog {
  Q_OBJECT
 public:
  /// The cards with their contents, or the shot list where there are none.
  PreviewDialog(Project project, std::optional<std::vector<CardContent>> contents, QWidget* parent = nullptr);
  ~PreviewDialog() override;
  [[nodiscard]] int pages() const;
  /// From 1; beyond the ends it stays.
  void showPage(int page);

 signals:
  void writePdf();

 private:
  void paint(QPrinter* printer);
  void print();
  void refresh();
  Project project_;
  std::optional<std::vector<CardContent>> contents_;
  std::unique_ptr<QPrinter> printer_;
  QPrintPreviewWidget* view_;
  QLabel* where_;
  QPushButton *before_, *after_;
};

}  // namespace cinnabar
