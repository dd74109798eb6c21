// Earlier takes edited on the Takes page, by mouse and by keyboard.
#include "window_fixture.h"

namespace cinnabar {
namespace {

class TakesTest : public WindowTest {
 protected:
  void SetUp() override {
    WindowTest::SetUp();
    QTest::keyClick(window_.get(), Qt::Key_2, Qt::ControlModifier);
    table_ = find<TakeTables>("shotTakes");
    table_->setFocus();
  }
  TakeTables* table_ = nullptr;
};

TEST_F(TakesTest, AnEarlierTakeIsChosenKeptAndDropped) {
  EXPECT_EQ(value("/takes/0/kept"), std::optional<Json>(false));
  for (int k = 0; k < 4; ++k) QTest::keyClick(table_, k == 0 ? Qt::Key_Up : Qt::Key_Down);  // the first of four
  ASSERT_EQ(table_->taken(), std::optional<std::size_t>(0));
  QTest::keyClick(table_, Qt::Key_K);
  EXPECT_EQ(onDisk("/takes/0/kept"), std::optional<Json>(true));
  QTest::keyClick(table_, Qt::Key_D);
  EXPECT_EQ(value("/takes/0/kept"), std::optional<Json>(false));
  undo();
  undo();
  EXPECT_EQ(value("/takes/0/kept"), std::optional<Json>(false));
}

TEST_F(TakesTest, ItsReasonsAndNoteAreTyped) {
  table_->take(std::size_t{0});
  QTest::keyClick(table_, Qt::Key_Return);
  auto* editor = find<QLineEdit>("takeEditor");
  ASSERT_TRUE(editor->isVisible());
  EXPECT_EQ(editor->text(), "lid too dark");
  editor->selectAll();
  QTest::keyClicks(editor, "lid too dark, dust ; wiped it");
  QTest::keyClick(editor, Qt::Key_Return);
  EXPECT_FALSE(editor->isVisible());
  EXPECT_EQ(onDisk("/takes/0/reasons"), std::optional<Json>(Json{"lid too dark", "dust"}));
  EXPECT_EQ(value("/takes/0/notes"), std::optional<Json>("wiped it"));
}

TEST_F(TakesTest, ItIsChosenByTheMouseAndTakenOut) {
  const std::size_t before = session().project().takes.size();
  QTest::mouseClick(table_, Qt::LeftButton, {}, QPoint(60, 40));  // the newest stands on top
  ASSERT_EQ(table_->taken(), std::optional<std::size_t>(3));
  table_->setFocus();
  QTest::keyClick(table_, Qt::Key_Delete);
  EXPECT_EQ(session().project().takes.size(), before - 1);
  EXPECT_EQ(table_->taken(), std::optional<std::size_t>(2));
  EXPECT_TRUE(validate(session().document()).empty());
  undo();
  EXPECT_EQ(session().project().takes.size(), before);
  QTest::keyClick(table_, Qt::Key_Escape);
  EXPECT_FALSE(table_->taken());
}

}  // namespace
}  // namespace cinnabar
