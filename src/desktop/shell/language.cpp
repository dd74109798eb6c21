#include "cinnabar/desktop/shell/language.h"

#include <QCoreApplication>
#include <QTranslator>

#include "cinnabar/base/words.h"

namespace cinnabar {

void useTranslation(QTranslator* translator) {
  if (!translator) return set_translator({});
  QCoreApplication::installTranslator(translator);
  // The core asks from worker threads; translators may be read from any.
  set_translator(
      [translator](const char* english) { return translator->translate("Core", english).toStdString(); });
}

void speakLanguage(const QLocale& locale) {
  const QString here = QCoreApplication::applicationDirPath();
  auto* translator = new QTranslator(QCoreApplication::instance());
  for (const QString& folder : {here, here + "/../share/cinnabar/translations"})
    if (translator->load(locale, "cinnabar", "_", folder)) return useTranslation(translator);
  delete translator;
}

}  // namespace cinnabar
