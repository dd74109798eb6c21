// Ways that are looked for in the real window, and what they are chosen by.
#pragma once
#include <QComboBox>
#include <QMenu>

#include "cinnabar/desktop/ways/purse_view.h"
#include "cinnabar/desktop/ways/way_cards.h"
#include "window_fixture.h"

namespace cinnabar {

class WaysTest : public WindowTest {
 protected:
  WaysTest() { shots_ = 3; }
  /// The answers of a panel, once they are found.
  void waitForWays(WayCards* cards) {
    ASSERT_TRUE(QTest::qWaitFor([&] { return !cards->seeking(); }, 120000));
  }
  void choose(const char* box, const QString& data) {
    auto* kinds = find<QComboBox>(box);
    kinds->setFocus();
    QTest::keyClick(kinds, Qt::Key_Home);
    for (int k = 0; k < kinds->count() && kinds->currentData().toString() != data; ++k)
      QTest::keyClick(kinds, Qt::Key_Down);
    ASSERT_EQ(kinds->currentData().toString(), data);
  }
  PurseView* openPurse() {
    press("bench-expose");
    auto* purse = find<PurseView>("purse");
    EXPECT_TRUE(QTest::qWaitFor([&] { return purse->purse() != nullptr; }, 60000));
    return purse;
  }
  static std::size_t row(const PurseView& purse, const std::string& id) {
    const auto& rows = purse.purse()->rows;
    for (std::size_t r = 0; r < rows.size(); ++r)
      if (rows[r].id == id) return r;
    ADD_FAILURE() << id;
    return 0;
  }
};

}  // namespace cinnabar
