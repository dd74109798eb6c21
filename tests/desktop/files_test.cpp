// Files under the window: damaged, moved, deleted, held back, copied; and paper before it is printed.
#include <QPushButton>
#include <fstream>

#include "cinnabar/desktop/paper/preview_dialog.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

class FilesTest : public WindowTest {
 protected:
  FilesTest() { shots_ = 3; }
  void keepIso(int iso) { ASSERT_TRUE(session().keep("ISO", {{"/shots/0/camera/iso", iso}})); }
  QString said() { return find<QLabel>("message")->toolTip(); }
  void pressIn(const char* dialog, const char* button) {
    auto* box = window_->findChild<QDialog*>(dialog);
    ASSERT_NE(box, nullptr) << dialog;
    auto* b = box->findChild<QPushButton*>(button);
    ASSERT_NE(b, nullptr) << button;
    QTest::mouseClick(b, Qt::LeftButton);
  }
};

TEST_F(FilesTest, ADamagedFileIsOpenedForReadingAsFarAsItCanBe) {
  window_.reset();
  make_demo_of(path_, all_shots);
  std::string broken = path_ + ".broken.cinnabar";
  fs::copy_file(path_, broken);
  {
    std::fstream file(broken, std::ios::in | std::ios::out | std::ios::binary);
    const std::string body = [&] {
      std::ifstream in(broken, std::ios::binary);
      return std::string(std::istreambuf_iterator<char>(in), {});
    }();
    // One shot's JSON is torn: its screen time can no longer be parsed.
    const auto at = body.find("\"screen_time\"");
    ASSERT_NE(at, std::string::npos);
    file.seekp(static_cast<std::streamoff>(at));
    file << "!!!!!!";
  }
  path_ = broken;
  open({});
  EXPECT_TRUE(session().readOnly());
  EXPECT_GE(session().project().shots.size(), 6u);
  auto* dialog = window_->findChild<QDialog*>("lost");
  ASSERT_NE(dialog, nullptr);
  EXPECT_FALSE(dialog->findChild<QPlainTextEdit*>()->toPlainText().isEmpty());
  EXPECT_FALSE(session().keep("No", {{"/shots/0/camera/iso", 100}}));
  EXPECT_NE(said().indexOf("damaged"), -1) << said().toStdString();
  const QString copy = QString::fromStdString((folder_ / "copy.cinnabar").string());
  QSignalSpy saved(&session(), &Session::copySaved);
  session().saveCopy(copy);
  ASSERT_TRUE(saved.wait(5000));
  EXPECT_TRUE(saved[0][1].toBool());
  EXPECT_EQ(read_document(copy.toStdString())->to_json(), session().document().to_json());
}

TEST_F(FilesTest, AMovedFileIsSaidAndStillWritten) {
  const std::string elsewhere = (folder_ / "elsewhere.cinnabar").string();
  fs::rename(path_, elsewhere);
  keepIso(200);
  ASSERT_TRUE(QTest::qWaitFor([&] { return said().contains("was moved"); }, 5000)) << said().toStdString();
  keepIso(250);
  session().flush();
  window_.reset();
  EXPECT_EQ(*value_at(*read_document(elsewhere), "/shots/0/camera/iso"), 250);
}

TEST_F(FilesTest, WhatTheDiskWillNotTakeIsHeldAndLeavingAsks) {
  fs::remove(path_);  // the file is gone from under the window
  keepIso(200);
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().held() == 1; }, 5000));
  EXPECT_TRUE(said().contains("held here")) << said().toStdString();
  keepIso(300);
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().held() == 2; }, 5000));
  EXPECT_EQ(session().project().shots[0]->camera->iso, 300) << "nothing of it is lost in the window";
  EXPECT_TRUE(find<QLabel>("keptNote")->text().contains("2"));
  session().undo();
  EXPECT_EQ(session().project().shots[0]->camera->iso, 300);
  EXPECT_FALSE(window_->close()) << "leaving asks first";
  pressIn("heldBack", "heldStay");
  const QString copy = QString::fromStdString((folder_ / "copy.cinnabar").string());
  QSignalSpy saved(&session(), &Session::copySaved);
  session().saveCopy(copy);
  ASSERT_TRUE(saved.wait(5000));
  EXPECT_EQ(*value_at(*read_document(copy.toStdString()), "/shots/0/camera/iso"), 300);
  QTest::qWait(10);
  window_->close();
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->findChild<QDialog*>("heldBack") != nullptr; }, 2000));
  pressIn("heldBack", "heldLeave");
  EXPECT_FALSE(window_->isVisible());
}

TEST_F(FilesTest, PaperIsLookedAtBeforeItIsPrinted) {
  const auto preview = [&] { return window_->findChild<PreviewDialog*>("paperPreview"); };
  QTest::keyClick(window_.get(), Qt::Key_P, Qt::ControlModifier);
  ASSERT_TRUE(QTest::qWaitFor([&] { return preview() && preview()->isVisible(); }, 120000));
  // A card for each of three shots, of which one goes on over the page.
  ASSERT_TRUE(QTest::qWaitFor([&] { return preview()->pages() == 4; }, 5000)) << preview()->pages();
  auto* number = preview()->findChild<QLabel*>("pageNumber");
  EXPECT_EQ(number->text(), "page 1 of 4");
  EXPECT_FALSE(preview()->findChild<QPushButton*>("pageBefore")->isEnabled());
  pressIn("paperPreview", "pageAfter");
  EXPECT_EQ(number->text(), "page 2 of 4");
  preview()->showPage(99);
  EXPECT_EQ(number->text(), "page 4 of 4");
  pressIn("paperPreview", "paperClose");
}

TEST_F(FilesTest, TheSizeOfTextIsKeptForTheNextStart) {
  QSettings().remove("scale");
  press("projectMenu");
  auto* sizes = window_->findChild<QMenu*>("sizes");
  ASSERT_NE(sizes, nullptr);
  for (QAction* action : sizes->actions())
    if (action->text().startsWith("150")) action->trigger();
  EXPECT_EQ(QSettings().value("scale").toInt(), 150);
  QSettings().remove("scale");
}

}  // namespace
}  // namespace cinnabar
