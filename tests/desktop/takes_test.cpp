// Earlier takes edited on the Takes page, by mouse and by keyboard.
#include "window_fixture.h"

namespace cinnabar {
namespace {

class TakesTest : public WindowTest {
 protected:
  void SetUp() override {
    page_ = "takes";
    WindowTest::SetUp();
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
  QTest::mouseClick(table_, Qt::LeftButton, {}, QPoint(60, 56));  // the newest stands on top
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

TEST_F(TakesTest, TheTableIsSortedByItsHeadingsAndByAKey) {
  ASSERT_TRUE(QTest::qWaitFor([&] { return table_->rows().size() == 4; }, 5000));
  using Places = std::vector<std::size_t>;
  EXPECT_EQ(table_->rows(), (Places{3, 2, 1, 0}));
  const auto click = [&](int column) {
    QTest::mouseClick(table_, Qt::LeftButton, {}, table_->heading(column).center().toPoint());
  };
  click(0);
  EXPECT_EQ(table_->rows(), (Places{0, 1, 2, 3})) << "the oldest first";
  click(2);
  EXPECT_TRUE(session().project().takes[table_->rows().front()]->kept || table_->order() == TakeOrder::kept_first);
  click(3);
  EXPECT_EQ(table_->order(), TakeOrder::reason);
  table_->setFocus();
  QTest::keyClick(table_, Qt::Key_S);
  EXPECT_EQ(table_->order(), TakeOrder::newest);
  click(1);
  EXPECT_EQ(table_->order(), TakeOrder::fewest_changes);
  // One thing at a time: a take after one change is shown, one after two is not.
  const std::string camera = "/shots/" + std::to_string(session().shotIndex()) + "/camera";
  auto* next = find<NextTake>("nextTake");
  next->log(false);
  session().keep("One", {{camera + "/iso", 111}});
  next->log(false);
  session().keep("Two", {{camera + "/iso", 222}, {camera + "/f_number", 7.1}});
  next->log(true);
  QTest::keyClick(table_, Qt::Key_O);
  ASSERT_TRUE(QTest::qWaitFor(
      [&] {
        return table_->rows() == Places{5, 1};
      },
      5000))
      << table_->rows().size() << " of " << session().project().takes.size();
  click(4);
  EXPECT_EQ(table_->rows().size(), 7u);
  QTest::keyClick(table_, Qt::Key_Down);
  EXPECT_EQ(table_->taken(), std::optional(table_->rows()[0]));
}

}  // namespace
}  // namespace cinnabar
