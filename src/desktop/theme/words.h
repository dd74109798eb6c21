// Texts of the core in the window.
#pragma once
#include <QString>
#include <QTextDocument>
#include <string>

namespace cinnabar {

[[nodiscard]] inline QString q(const std::string& s) { return QString::fromStdString(s); }

/// A sentence with a number in it ("%1"), in one of two patterns.
[[nodiscard]] inline QString counted(qsizetype count, const QString& one, const QString& many) {
  return (count == 1 ? one : many).arg(count);
}

/// A text for a tooltip, which would else be read as markup where it looks like some.
[[nodiscard]] inline QString plainTip(const QString& text) {
  return Qt::mightBeRichText(text) ? Qt::convertFromPlainText(text) : text;
}
/// A text for a menu, where an ampersand would else underline a letter and a tab part off a key.
[[nodiscard]] inline QString plainAction(QString text) { return text.replace('&', "&&").replace('\t', ' '); }

}  // namespace cinnabar
