#include "cinnabar/desktop/paper/papers.h"

#include <QFile>

#include "cinnabar/base/files.h"
#include "cinnabar/desktop/paper/crew_board.h"
#include "cinnabar/desktop/paper/packing_paper.h"
#include "cinnabar/desktop/paper/page.h"
#include "cinnabar/desktop/paper/settings_paper.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {
namespace {

using Paint = std::function<void(QPagedPaintDevice&)>;

/// How a paper is drawn; made after its pictures and levels, where it shows any.
Expected<Paint> painted(Paper paper, const Project& project, CardOptions options) {
  if (paper == Paper::list) return [&project](QPagedPaintDevice& device) { paintShotList(device, project); };
  if (paper == Paper::settings) return [&project](QPagedPaintDevice& device) { paintSettings(device, project); };
  if (paper == Paper::packing)
    return [&project, list = packing(project)](QPagedPaintDevice& device) { paintPacking(device, project, list); };
  options.levels = options.levels && paper == Paper::cards;
  auto contents = cardContents(project, options);
  if (!contents) return tl::unexpected(contents.error());
  const auto paint = paper == Paper::cards ? paintShotCards : paper == Paper::board ? paintBoard : paintCrewBoard;
  return [&project, paint, contents = std::move(*contents)](QPagedPaintDevice& device) {
    paint(device, project, contents);
  };
}

}  // namespace

const std::vector<PaperKind>& paperKinds() {
  static const std::vector<PaperKind> kinds{
      {Paper::cards, "cards", QT_TRANSLATE_NOOP("Paper", "Shot cards")},
      {Paper::list, "list", QT_TRANSLATE_NOOP("Paper", "Shot list")},
      {Paper::board, "board", QT_TRANSLATE_NOOP("Paper", "Board for the client")},
      {Paper::crew, "crew", QT_TRANSLATE_NOOP("Paper", "Board for the crew")},
      {Paper::packing, "packing", QT_TRANSLATE_NOOP("Paper", "Packing list")},
      {Paper::settings, "settings", QT_TRANSLATE_NOOP("Paper", "Settings cards")}};
  return kinds;
}

Expected<void> writePaper(Paper paper, const Project& project, const QString& path, const CardOptions& options) {
  auto beside = FileBeside::at(path.toStdString());  // asked first: an hour of pictures for nothing is a pity
  if (!beside) return tl::unexpected(beside.error());
  const auto paint = painted(paper, project, options);
  if (!paint)
    return fail(path.toStdString(), "was not written: " + paint.error().message, "write it again", Fault::output);
  QFile file(q(beside->beside()));
  if (!file.open(QIODevice::WriteOnly))
    return fail(path.toStdString(), "cannot be written", "check the folder and its permissions", Fault::output);
  {
    QPdfWriter pdf(&file);
    const auto kind = std::find_if(paperKinds().begin(), paperKinds().end(),
                                   [&](const PaperKind& k) { return k.paper == paper; });
    paper::prepare(pdf, q(project.name) + ", " + paper::paperText(kind->title).toLower());
    (*paint)(pdf);
  }
  if (!file.flush() || file.error() != QFileDevice::NoError)
    return fail(path.toStdString(), "could not be written (" + file.errorString().toStdString() + ")",
                "make room on the disk", Fault::output);
  file.close();
  return beside->keep();
}

}  // namespace cinnabar
