// One application for all tests of the window.
#include <gtest/gtest.h>

#include "cinnabar/desktop/controls/accessible.h"
#include "cinnabar/desktop/shell/memory.h"
#include "cinnabar/desktop/shell/painters.h"
#include "cinnabar/desktop/theme/theme.h"
#include "timed_application.h"

int main(int argc, char** argv) {
  (void)cinnabar::everyThreadHasItsHeap();  // as the program does
  cinnabar::TimedApplication app(argc, argv);
  cinnabar::paintAloneAndFirst();
  QApplication::setApplicationName("cinnabar-tests");
  QApplication::setOrganizationName("cinnabar-tests");
  cinnabar::loadFonts();
  cinnabar::installAccessibility();
  testing::InitGoogleTest(&argc, argv);
  return RUN_ALL_TESTS();
}
