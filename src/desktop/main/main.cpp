#include <QApplication>
#include <QCommandLineParser>
#include <QSettings>
#include <QTimer>
#include <cstdio>
#include <string_view>

#include "cinnabar/desktop/shell/language.h"
#include "cinnabar/desktop/shell/main_window.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/widgets/accessible.h"

int main(int argc, char** argv) {
  using namespace cinnabar;
  QApplication::setApplicationName("cinnabar");
  QApplication::setOrganizationName("cinnabar");
  // Text and all that is drawn with it grow together; Qt asks for the factor before there is an application.
  int scale = QSettings().value("scale", 100).toInt();
  for (int i = 1; i + 1 < argc; ++i)
    if (std::string_view(argv[i]) == "--scale") scale = std::atoi(argv[i + 1]);
  if (scale >= 75 && scale <= 300 && scale != 100 && qEnvironmentVariableIsEmpty("QT_SCALE_FACTOR"))
    qputenv("QT_SCALE_FACTOR", QByteArray::number(scale / 100.0));
  QApplication app(argc, argv);
  speakLanguage(QLocale());
  QCommandLineParser parser;
  parser.setApplicationDescription("Cinnabar: what the camera will record, before a take is burnt.");
  parser.addHelpOption();
  parser.addPositionalArgument("FILE", "Project to open");
  parser.addOptions({{"page", "brief, board, stage, takes or kit", "PAGE", "stage"},
                     {"shot", "Number of the shot, from 1", "N", "1"},
                     {"bench", "place or light", "BENCH", "light"},
                     {"theme", "paper or blackout", "THEME", "paper"},
                     {"level", "Open the explanation of this level", "ID"},
                     {"size", "Size of the window", "WxH", "1280x800"},
                     {"scale", "Size of text and drawings in per cent, 75 to 300", "PERCENT", "100"},
                     {"grab", "Take a picture of the window once it has settled, and leave", "OUT.png"}});
  parser.process(app);
  const auto refuse = [](const QString& what) {
    std::fprintf(stderr, "cinnabar: %s\n", qPrintable(what));
    return 2;
  };
  WindowOptions options;
  options.page = parser.value("page"), options.bench = parser.value("bench"),
  options.theme = parser.value("theme"), options.level = parser.value("level");
  if (options.page != "board" && options.page != "stage" && options.page != "takes" && options.page != "kit" &&
      options.page != "brief")
    return refuse("--page takes brief, board, stage, takes or kit");
  if (options.bench != "place" && options.bench != "light") return refuse("--bench takes place or light");
  if (options.theme != "paper" && options.theme != "blackout") return refuse("--theme takes paper or blackout");
  bool number = false;
  options.shot = parser.value("shot").toInt(&number);
  if (!number || options.shot < 1) return refuse("--shot takes a number from 1");
  const QStringList size = parser.value("size").split('x');
  options.size = size.size() == 2 ? QSize(size[0].toInt(), size[1].toInt()) : QSize();
  if (options.size.width() < 320 || options.size.height() < 240 || options.size.width() > 8192 ||
      options.size.height() > 8192)
    return refuse("--size takes WIDTHxHEIGHT, such as 1280x800");
  if (parser.isSet("scale") && (scale < 75 || scale > 300)) return refuse("--scale takes 75 to 300");
  if (parser.positionalArguments().size() > 1) return refuse("one FILE only");
  // Where nothing is said, the window begins where the last one ended.
  options.remember = true;
  for (const char* said : {"page", "shot", "bench", "theme", "level", "size", "grab"})
    options.remember = options.remember && !parser.isSet(said);

  loadFonts();
  installAccessibility();
  MainWindow window(options);
  const QString grab = parser.value("grab");
  QObject::connect(&window, &MainWindow::failed, &app, [&](const QString& why) {
    std::fprintf(stderr, "cinnabar: %s\n", qPrintable(why));
    if (!grab.isEmpty()) QApplication::exit(3);
  });
  if (!parser.positionalArguments().isEmpty()) window.openFile(parser.positionalArguments().first());
  if (!grab.isEmpty()) window.setFixedSize(options.size);
  window.show();
  QTimer poll;
  int waited = 0;
  if (!grab.isEmpty()) {
    QObject::connect(&poll, &QTimer::timeout, &app, [&] {
      waited += 100;
      const bool ready = parser.positionalArguments().isEmpty() ||
                         (window.settled() && waited > (options.level.isEmpty() ? 300 : 6000));
      if (!ready && waited < 15000) return;
      poll.stop();
      const bool saved = window.grab().save(grab);
      if (!saved) std::fprintf(stderr, "cinnabar: %s could not be written; check the folder\n", qPrintable(grab));
      QApplication::exit(saved ? 0 : 1);
    });
    poll.start(100);
  }
  return QApplication::exec();
}
