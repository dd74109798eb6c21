#include <QCoreApplication>

#include "cinnabar/desktop/pages/board_page.h"
#include "cinnabar/desktop/pages/brief_page.h"
#include "cinnabar/desktop/pages/kit_page.h"
#include "cinnabar/desktop/pages/page.h"
#include "cinnabar/desktop/pages/stage_page.h"
#include "cinnabar/desktop/pages/takes_page.h"

namespace cinnabar {

const std::vector<PageRow>& pageRows() {
  using M = const PageMaking&;
  static const std::vector<PageRow> rows{
      {"brief", QT_TRANSLATE_NOOP("cinnabar::WindowPage", "Brief"), "Ctrl+1", true,
       [](M m, QWidget* parent) -> WindowPage* { return new BriefPage(m.session, parent); }},
      {"board", QT_TRANSLATE_NOOP("cinnabar::WindowPage", "Board"), "Ctrl+2", true,
       [](M m, QWidget* parent) -> WindowPage* { return new BoardPage(m.session, m.foresight, parent); }},
      {"stage", QT_TRANSLATE_NOOP("cinnabar::WindowPage", "Stage"), "Ctrl+3", true,
       [](M m, QWidget* parent) -> WindowPage* { return new StagePage(m.session, m.foresight, m.maker, parent); }},
      {"takes", QT_TRANSLATE_NOOP("cinnabar::WindowPage", "Takes"), "Ctrl+5", true,
       [](M m, QWidget* parent) -> WindowPage* { return new TakesPage(m.session, m.foresight, parent); }},
      {"kit", QT_TRANSLATE_NOOP("cinnabar::WindowPage", "Kit"), "Ctrl+7", false,
       [](M m, QWidget* parent) -> WindowPage* { return new KitPage(m.session, parent); }}};
  return rows;
}

}  // namespace cinnabar
