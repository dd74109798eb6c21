// Sheets over the window: how each begins, and asking for a file.
#pragma once
#include <QDialog>
#include <QFileDialog>

namespace cinnabar {

/// A sheet with its name, title and size, gone once it is closed.
void beginSheet(QDialog* sheet, const QString& object, const QString& title, const QSize& size = {});

/// Asks for a file: one to write where a suffix is given, else one that is there. To be opened by the caller.
[[nodiscard]] QFileDialog* fileDialog(QWidget* parent, const QString& title, const QString& filter,
                                      const char* suffix = nullptr);

}  // namespace cinnabar
