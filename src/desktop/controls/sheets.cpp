#include "cinnabar/desktop/controls/sheets.h"

namespace cinnabar {

void beginSheet(QDialog* sheet, const QString& object, const QString& title, const QSize& size) {
  sheet->setObjectName(object);
  sheet->setWindowTitle(title);
  sheet->setAttribute(Qt::WA_DeleteOnClose);
  if (size.isValid()) sheet->resize(size);
}

QFileDialog* fileDialog(QWidget* parent, const QString& title, const QString& filter, const char* suffix) {
  auto* dialog = new QFileDialog(parent, title, QString(), filter);
  dialog->setOption(QFileDialog::DontUseNativeDialog);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  dialog->setFileMode(suffix ? QFileDialog::AnyFile : QFileDialog::ExistingFile);
  if (suffix) {
    dialog->setAcceptMode(QFileDialog::AcceptSave);
    dialog->setDefaultSuffix(suffix);
  }
  return dialog;
}

}  // namespace cinnabar
