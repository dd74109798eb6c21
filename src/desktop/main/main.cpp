#include <QApplication>
#include <QCommandLineParser>
#include <QFileInfo>
#include <QImageWriter>
#include <QSettings>
#include <QTimer>
#include <cstdio>
#include <string_view>

#include "cinnabar/base/files.h"
#include "cinnabar/desktop/controls/accessible.h"
#include "cinnabar/desktop/pages/page.h"
#include "cinnabar/desktop/paper/papers.h"
#include "cinnabar/desktop/shell/language.h"
#include "cinnabar/desktop/shell/main_window.h"
#include "cinnabar/desktop/shell/memory.h"
#include "cinnabar/desktop/shell/painters.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/formats/demo.h"

namespace {

using namespace cinnabar;

int refuse(const QString& what, int code = 2) {
  std::fprintf(stderr, "cinnabar: %s\n", qPrintable(what));
  return code;
}
int refuse(const Error& error) { return refuse(q(error.text()), exit_code(error)); }

bool asked(int argc, char** argv, std::initializer_list<std::string_view> words) {
  for (int i = 1; i < argc; ++i)
    for (const std::string_view word : words)
      if (argv[i] == word || std::string_view(argv[i]).starts_with(std::string(word) + "=")) return true;
  return false;
}

/// Where there is no display, what needs none is done on a platform without one.
bool withoutDisplay(int argc, char** argv) {
  const bool none = qEnvironmentVariableIsEmpty("DISPLAY") && qEnvironmentVariableIsEmpty("WAYLAND_DISPLAY") &&
                    qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM");
  const bool needless = asked(argc, argv, {"--help", "-h", "--help-all", "--version", "-v", "--paper"});
  if (none || needless) qputenv("QT_QPA_PLATFORM", "offscreen");
  return none;
}

QStringList pageIds() {
  QStringList ids;
  for (const PageRow& row : pageRows()) ids << row.id;
  return ids;
}

void addOptions(QCommandLineParser& parser) {
  QStringList papers;
  for (const PaperKind& kind : paperKinds()) papers << kind.id;
  parser.setApplicationDescription("Cinnabar: what the camera will record, before a take is burnt.");
  parser.addHelpOption();
  parser.addVersionOption();
  parser.addPositionalArgument("FILE", "Project to open");
  parser.addOptions(
      {{"page", pageIds().join(", "), "PAGE", "stage"},
       {"shot", "Number of the shot, from 1", "N", "1"},
       {"bench", "place, light, move, expose or effects", "BENCH", "light"},
       {"theme", "paper or blackout", "THEME", "paper"},
       {"level", "Open the explanation of this level", "ID"},
       {"example", "Make the finished example at FILE where there is nothing yet"},
       {"size", "Size of the window", "WxH", "1280x800"},
       {"scale", "Size of text and drawings in per cent, 75 to 300", "PERCENT", "100"},
       {"paper", "Write a paper (" + papers.join(", ") + ") as a PDF and leave; needs no display", "PAPER"},
       {"out", "Where --paper writes", "F.pdf"},
       {"grab", "Take a picture of the window once it has settled, and leave", "OUT.png"}});
}

/// The window's options; `why` says what is wrong with them.
WindowOptions windowOptions(const QCommandLineParser& parser, QString& why) {
  WindowOptions options;
  options.page = parser.value("page"), options.bench = parser.value("bench"),
  options.theme = parser.value("theme"), options.level = parser.value("level");
  if (!pageIds().contains(options.page)) why = "--page takes " + pageIds().join(", ");
  if (!QStringList{"place", "light", "move", "expose", "effects"}.contains(options.bench))
    why = "--bench takes place, light, move, expose or effects";
  if (options.theme != "paper" && options.theme != "blackout") why = "--theme takes paper or blackout";
  bool number = false;
  options.shot = parser.value("shot").toInt(&number);
  if (!number || options.shot < 1) why = "--shot takes a number from 1";
  const QStringList size = parser.value("size").split('x');
  options.size = size.size() == 2 ? QSize(size[0].toInt(), size[1].toInt()) : QSize();
  if (options.size.width() < 320 || options.size.height() < 240 || options.size.width() > 8192 ||
      options.size.height() > 8192)
    why = "--size takes WIDTHxHEIGHT, such as 1280x800";
  const int scale = parser.value("scale").toInt();
  if (scale < 75 || scale > 300) why = "--scale takes 75 to 300";
  options.walk = !parser.isSet("grab");
  // Where nothing is said, the window begins where the last one ended.
  options.remember = true;
  for (const char* said : {"page", "shot", "bench", "theme", "level", "size", "grab"})
    options.remember = options.remember && !parser.isSet(said);
  return options;
}

/// A paper as a PDF, without a window.
int writeAndLeave(const QString& file, const QString& name, const QString& out) {
  const auto kind =
      std::find_if(paperKinds().begin(), paperKinds().end(), [&](const PaperKind& k) { return name == k.id; });
  if (kind == paperKinds().end()) {
    QStringList known;
    for (const PaperKind& k : paperKinds()) known << k.id;
    return refuse("--paper takes " + known.join(", "));
  }
  if (file.isEmpty()) return refuse("--paper needs a FILE, the project");
  if (out.isEmpty()) return refuse("--paper needs --out F.pdf");
  const auto document = read_document(file.toStdString());
  if (!document) return refuse(document.error());
  ProjectReader reader;
  const Project project = reader.read(*document);
  for (const std::string& line : project.unreadable) refuse(q(line));
  CardOptions options;
  options.progress = [](int done, int all) { std::fprintf(stderr, "shot %d of %d\n", done, all); };
  const auto written = writePaper(kind->paper, project, out, options);
  if (!written) return refuse(written.error());
  std::printf("%s\n", qPrintable(out));
  return 0;
}

/// The window's picture, put at its name whole.
Expected<void> grabbed(QWidget& window, const QString& path) {
  auto beside = FileBeside::at(path.toStdString());
  if (!beside) return tl::unexpected(beside.error());
  QImageWriter writer(q(beside->beside()), "PNG");
  if (!writer.write(window.grab().toImage()))
    return fail(path.toStdString(), "could not be written", "check the folder and the room on the disk",
                Fault::output);
  return beside->keep();
}

}  // namespace

int main(int argc, char** argv) {
  (void)everyThreadHasItsHeap();
  QApplication::setApplicationName("cinnabar");
  QApplication::setApplicationVersion(CINNABAR_VERSION);
  QApplication::setOrganizationName("cinnabar");
  const bool noDisplay = withoutDisplay(argc, argv);
  // Text and all that is drawn with it grow together; Qt asks for the factor before there is an application.
  int scale = QSettings().value("scale", 100).toInt();
  for (int i = 1; i + 1 < argc; ++i)
    if (std::string_view(argv[i]) == "--scale") scale = std::atoi(argv[i + 1]);
  if (scale >= 75 && scale <= 300 && scale != 100 && qEnvironmentVariableIsEmpty("QT_SCALE_FACTOR"))
    qputenv("QT_SCALE_FACTOR", QByteArray::number(scale / 100.0));
  QApplication app(argc, argv);
  paintAloneAndFirst();
  speakLanguage(QLocale());
  QCommandLineParser parser;
  addOptions(parser);
  if (!parser.parse(QApplication::arguments())) return refuse(parser.errorText());
  if (parser.isSet("help") || parser.isSet("version")) parser.process(app);  // answers and leaves
  QString why;
  const WindowOptions options = windowOptions(parser, why);
  if (!why.isEmpty()) return refuse(why);
  const QStringList files = parser.positionalArguments();
  if (files.size() > 1) return refuse("one FILE only");
  const bool paper = parser.isSet("paper");
  if (parser.isSet("out") && !paper) return refuse("--out goes with --paper");
  const QString grab = parser.value("grab");
  if (noDisplay && grab.isEmpty() && !paper)
    return refuse("there is no display here; --grab and --paper work without one, and ./demo opens a virtual one",
                  1);
  if (parser.isSet("example") && files.isEmpty()) return refuse("--example needs a FILE, where to make it");
  if (parser.isSet("example") && !QFileInfo::exists(files.first()))
    if (const auto made = make_demo(files.first().toStdString()); !made) return refuse(made.error());
  loadFonts();
  if (paper) return writeAndLeave(files.value(0), parser.value("paper"), parser.value("out"));

  installAccessibility();
  MainWindow window(options);
  QObject::connect(&window, &MainWindow::failed, &app, [&](const QString& what, int code) {
    refuse(what);
    if (!grab.isEmpty()) QApplication::exit(code);
  });
  if (!files.isEmpty()) window.openFile(files.first());
  if (!grab.isEmpty()) window.setFixedSize(options.size);
  window.show();
  QTimer poll;
  int waited = 0;
  if (!grab.isEmpty()) {
    QObject::connect(&poll, &QTimer::timeout, &app, [&] {
      waited += 100;
      const bool ready = files.isEmpty() || (window.settled() && waited > (options.level.isEmpty() ? 300 : 6000));
      if (!ready && waited < 15000) return;
      poll.stop();
      const auto saved = grabbed(window, grab);
      QApplication::exit(saved ? 0 : refuse(saved.error()));
    });
    poll.start(100);
  }
  return QApplication::exec();
}
