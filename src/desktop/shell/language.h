// The window's language: Qt's translations for its own texts, and the same for the sentences of the core.
#pragma once
#include <QLocale>

class QTranslator;

namespace cinnabar {

/// Puts a translation to use for the window and, in the context "Core", for the core's sentences. It must outlive
/// the application's texts; nothing goes back to English.
void useTranslation(QTranslator* translator);

/// Looks for cinnabar_LANGUAGE.qm beside the program and in share/cinnabar/translations; English where there is
/// none.
void speakLanguage(const QLocale& locale);

}  // namespace cinnabar
