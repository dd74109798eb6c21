// An open project behind the window: what is previewed, kept, refused, taken back; and the workers that draw and
// judge.
#include "cinnabar/desktop/workers/foresight.h"
#include "cinnabar/desktop/workers/picture_maker.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

class SessionTest : public testing::Test {
 protected:
  void SetUp() override {
    std::string name = (fs::temp_directory_path() / "cinnabar-session-XXXXXX").string();
    folder_ = ::mkdtemp(name.data());
    path_ = (folder_ / "s.cinnabar").string();
    ASSERT_TRUE(make_demo(path_));
    session_ = std::make_unique<Session>(OpenedProject(std::move(*Store::open(path_, Access::write))));
  }
  void TearDown() override {
    session_.reset();
    fs::remove_all(folder_);
  }
  [[nodiscard]] double iso() const { return session_->project().shots[0]->camera->iso; }
  [[nodiscard]] double isoOnDisk() const {
    session_->flush();
    return value_at(*read_document(path_), "/shots/0/camera/iso")->get<double>();
  }
  fs::path folder_;
  std::string path_;
  std::unique_ptr<Session> session_;
};

TEST_F(SessionTest, APreviewIsSeenButNotKept) {
  const double before = iso();
  ASSERT_TRUE(session_->preview(Session::Values{{"/shots/0/camera/iso", 3200}}));
  EXPECT_EQ(iso(), 3200);
  EXPECT_TRUE(session_->previewing());
  EXPECT_EQ(isoOnDisk(), before);
  session_->dropPreview();
  EXPECT_EQ(iso(), before);
  EXPECT_FALSE(session_->previewing());
}

TEST_F(SessionTest, PreviewsStartFromWhatIsKeptEachTime) {
  ASSERT_TRUE(session_->preview(Session::Values{{"/shots/0/camera/iso", 3200}}));
  ASSERT_TRUE(session_->preview(Session::Values{{"/shots/0/camera/f_number", 11}}));
  EXPECT_EQ(iso(), 160) << "the first preview is gone";
  EXPECT_EQ(session_->shot()->camera->f_number, 11);
}

TEST_F(SessionTest, WhatValidationRefusesChangesNothingAndSaysWhere) {
  QSignalSpy said(session_.get(), &Session::message);
  EXPECT_FALSE(session_->keep("Bad", {{"/shots/0/camera/iso", -1}}));
  ASSERT_EQ(said.size(), 1);
  EXPECT_NE(said[0][0].toString().indexOf("out of range"), -1) << said[0][0].toString().toStdString();
  EXPECT_FALSE(session_->keep("Nowhere", {{"/shots/99/name", "x"}}));
  EXPECT_FALSE(session_->preview(Session::Values{{"/shots/0/camera/iso", "much"}}));
  EXPECT_EQ(iso(), 160);
  EXPECT_EQ(isoOnDisk(), 160);
}

TEST_F(SessionTest, KeptIsKeptInOrderHoweverFast) {
  for (int k = 0; k < 50; ++k) ASSERT_TRUE(session_->keep("Step", {{"/shots/0/camera/iso", 200 + k}}));
  EXPECT_EQ(isoOnDisk(), 249);
  QSignalSpy history(session_.get(), &Session::historyChanged);
  session_->undo();
  ASSERT_TRUE(history.wait(5000));
  EXPECT_EQ(iso(), 248);
}

TEST_F(SessionTest, UndoAndRedoAnswerWithTheirTitles) {
  ASSERT_TRUE(session_->keep("Brighter", {{"/shots/0/camera/iso", 320}}));
  EXPECT_EQ(session_->undoTitle(), "Brighter");
  QSignalSpy history(session_.get(), &Session::historyChanged);
  session_->undo();
  ASSERT_TRUE(history.wait(5000));
  EXPECT_EQ(iso(), 160);
  EXPECT_EQ(session_->redoTitle(), "Brighter");
  session_->redo();
  ASSERT_TRUE(history.wait(5000));
  EXPECT_EQ(iso(), 320);
}

TEST_F(SessionTest, WhatIsInHandIsAlwaysThere) {
  session_->select({Selection::Kind::card, 0});
  ASSERT_TRUE(session_->keep("No cards", {{"/setups/0/cards", Json::array()}}));
  EXPECT_EQ(session_->selection().kind, Selection::Kind::camera);
  session_->select({Selection::Kind::product, 0});
  ASSERT_TRUE(session_->keep("No product", {{"/shots/0/products", Json::array()}}));
  EXPECT_EQ(session_->selection().kind, Selection::Kind::camera);
}

TEST_F(SessionTest, TimeStaysInsideTheShot) {
  session_->setSetTime(99);
  EXPECT_NEAR(session_->setTime(), session_->shot()->set_time(), 1e-9);
  session_->setSetTime(-1);
  EXPECT_EQ(session_->setTime(), 0.0);
  session_->setSetTime(99);
  ASSERT_TRUE(session_->keep("Shorter", {{"/shots/0/screen_time", 1.0}}));
  EXPECT_NEAR(session_->setTime(), 1.0, 1e-9);
}

TEST_F(SessionTest, ThePictureMakerAnswersTheNewestRequestAndGrows) {
  PictureMaker maker(12);
  QSignalSpy pictures(&maker, &PictureMaker::picture);
  maker.ask(session_->project(), 0, 0.0, 96, {});
  maker.ask(session_->project(), 1, 0.5, 96, {});
  std::shared_ptr<const LensPicture> last;
  ASSERT_TRUE(QTest::qWaitFor(
      [&] {
        if (!pictures.empty()) last = pictures.back()[0].value<std::shared_ptr<const LensPicture>>();
        return last && last->settled && last->set_time == 0.5;
      },
      60000));
  EXPECT_EQ(last->image.width(), 96);
  EXPECT_EQ(last->passes, maker.allPasses());
  ASSERT_TRUE(last->tracer && last->film);
  for (const FirstHit& hit : last->film->first)
    if (hit.mesh) {
      EXPECT_GE(hit.mesh, last->tracer->world().meshes.data())
          << "what was met belongs to the picture's own tracer";
      EXPECT_LT(hit.mesh, last->tracer->world().meshes.data() + last->tracer->world().meshes.size());
    }
}

TEST_F(SessionTest, WhatHangsInTheAirIsSeenAsSoonAsItIsThere) {
  PictureMaker maker(2);
  QSignalSpy pictures(&maker, &PictureMaker::picture);
  const auto settled = [&] {
    pictures.clear();
    maker.ask(session_->project(), 1, 1.0, 96, {});
    std::shared_ptr<const LensPicture> last;
    EXPECT_TRUE(QTest::qWaitFor(
        [&] {
          if (!pictures.empty()) last = pictures.back()[0].value<std::shared_ptr<const LensPicture>>();
          return last && last->settled;
        },
        60000));
    return last->image;
  };
  const QImage clear = settled();
  EXPECT_EQ(settled(), clear) << "nothing has changed";
  const Json steam{{"id", "steam"}, {"kind", "steam"}, {"at", 0.0}, {"place", {0.0, 0.05, 0.1}}};
  const bool some = session_->document().list("shots")[1]->contains("effects");
  ASSERT_TRUE(session_->keep(
      "Steam", {{some ? "/shots/1/effects/-" : "/shots/1/effects", some ? steam : Json(Json::array({steam}))}}));
  EXPECT_NE(settled(), clear);
}

TEST_F(SessionTest, ForesightIsRoughFirstAndThenClose) {
  Foresight foresight;
  std::vector<bool> close;
  std::size_t levels = 0;
  QObject::connect(&foresight, &Foresight::levels, &foresight, [&](const std::vector<Level>& list, bool closely) {
    close.push_back(closely);
    levels = list.size();
  });
  foresight.askLevels(session_->project(), 1);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !close.empty() && close.back(); }, 180000));
  EXPECT_FALSE(close.front());
  EXPECT_GE(levels, 25u);
}

TEST_F(SessionTest, TheLightIsThatOfTheMomentLookedAt) {
  // A light that goes out half-way: at the end its share is nothing.
  const std::size_t shot = 1;
  session_->selectShot(shot);
  const std::string id = session_->setup()->lights[0].id;
  ASSERT_TRUE(session_->keep("Goes out", {{"/shots/1/tracks/-", Json{{"target", "light." + id + ".dimmer"},
                                                                     {"keys", {{0.0, 1.0}, {0.2, 0.0}}}}}}));
  Foresight foresight;
  int answers = 0;
  QObject::connect(&foresight, &Foresight::light, &foresight, [&] { ++answers; });
  foresight.askLight(session_->project(), shot, 0.0);
  ASSERT_TRUE(QTest::qWaitFor([&] { return answers == 2; }, 30000)) << "roughly, then closely";
  ASSERT_EQ(foresight.shares().size(), session_->setup()->lights.size() + 1)
      << "each light's share, and the room's";
  EXPECT_GT(foresight.shares()[0], 0.05);
  const double before = foresight.lux();
  foresight.askLight(session_->project(), shot, 0.3);
  ASSERT_TRUE(QTest::qWaitFor([&] { return answers == 4; }, 30000));
  EXPECT_EQ(foresight.shares()[0], 0.0);
  EXPECT_LT(foresight.lux(), before);
}

}  // namespace
}  // namespace cinnabar
