// Texts of the core in the window.
#pragma once
#include <QCoreApplication>
#include <QString>
#include <QTextDocument>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/motion/moves.h"

namespace cinnabar {

[[nodiscard]] inline QString q(const std::string& s) { return QString::fromStdString(s); }

/// A text of numbers with true minus signs.
[[nodiscard]] inline QString tidyMinus(QString text) { return text.replace('-', QChar(0x2212)); }

/// A sentence with a number in it ("%1"), in one of two patterns.
[[nodiscard]] inline QString counted(qsizetype count, const QString& one, const QString& many) {
  return (count == 1 ? one : many).arg(count);
}

/// How a track moves between its keys, in the order of Shape.
[[nodiscard]] inline QString shapeWord(Shape shape) {
  static const char* words[] = {"linear", "by thirds", "smoothest", "s-curve", "trapezoid"};
  return QCoreApplication::translate("Shape", words[static_cast<std::size_t>(shape)]);
}

/// The name of what was chosen, as documents have it; empty where nothing was.
template <class Choice>
[[nodiscard]] QString nameOf(const std::vector<std::string>& names, std::optional<Choice> chosen) {
  return chosen ? q(names[static_cast<std::size_t>(*chosen)]) : QString();
}

/// A text for a tooltip, which would else be read as markup where it looks like some.
[[nodiscard]] inline QString plainTip(const QString& text) {
  return Qt::mightBeRichText(text) ? Qt::convertFromPlainText(text) : text;
}
/// A text for a menu, where an ampersand would else underline a letter and a tab part off a key.
[[nodiscard]] inline QString plainAction(QString text) { return text.replace('&', "&&").replace('\t', ' '); }

}  // namespace cinnabar
