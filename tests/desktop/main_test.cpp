// One application for all tests of the window.
#include <gtest/gtest.h>

#include <QApplication>

#include "cinnabar/desktop/theme/theme.h"

int main(int argc, char** argv) {
  QApplication app(argc, argv);
  QApplication::setApplicationName("cinnabar-tests");
  QApplication::setOrganizationName("cinnabar-tests");
  cinnabar::loadFonts();
  testing::InitGoogleTest(&argc, argv);
  return RUN_ALL_TESTS();
}
