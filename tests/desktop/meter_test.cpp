// The point meter in the real window: pins set in the picture, readings typed and taken over the line, a lamp made
// to fit.
#include <QProcess>

#include "cinnabar/desktop/ways/meter_panel.h"
#include "ways_fixture.h"

namespace cinnabar {
namespace {

class MeterTest : public WaysTest {
 protected:
  void SetUp() override {
    WaysTest::SetUp();
    press("askMeter");
    panel_ = find<MeterPanel>("meterPanel");
    auto* lens = find<LensView>("lens");
    ASSERT_TRUE(QTest::qWaitFor([&] { return lens->picture() && lens->passes() > 0; }, 20000));
  }
  void TearDown() override {
    WaysTest::TearDown();
    if (meter_.state() == QProcess::NotRunning) return;
    meter_.terminate();
    meter_.waitForFinished(5000);
  }
  /// A pin where the picture is clicked, shares of it.
  void setPin(double x, double y) {
    auto* lens = find<LensView>("lens");
    const QRectF box = lens->pictureBox();
    QTest::mouseClick(lens, Qt::LeftButton, {},
                      QPointF(box.left() + x * box.width(), box.top() + y * box.height()).toPoint());
    press("pinSet");
  }
  const std::vector<Pin>& pins() { return session().setup()->pins; }
  bool measured() {
    return QTest::qWaitFor([&] { return panel_->list().readings().size() == pins().size(); }, 20000);
  }
  void type(const char* field, const QString& text) {
    auto* number = find<NumberField>(field);
    number->setFocus();
    QTest::keyClick(number, Qt::Key_Return);
    auto* editor = number->findChild<QLineEdit*>("editor");
    ASSERT_NE(editor, nullptr);
    editor->selectAll();
    QTest::keyClicks(editor, text);
    QTest::keyClick(editor, Qt::Key_Return);
  }
  QString words() { return find<QLabel>("meterWords")->text(); }

  MeterPanel* panel_ = nullptr;
  QProcess meter_;
};

TEST_F(MeterTest, LampsThatWarmUpAreToldOfBeforeAnythingIsRead) {
  const std::string kit = session().setup()->lights[0].kit;
  EXPECT_FALSE(words().contains("burn")) << words().toStdString();
  const auto& kits = session().project().light_kits;
  const auto at = std::find_if(kits.begin(), kits.end(), [&](const auto& one) { return one->id == kit; });
  ASSERT_NE(at, kits.end());
  ASSERT_TRUE(
      session().keep("Warm", {{"/kit/lights/" + std::to_string(at - kits.begin()) + "/warm_up_minutes", 12}}));
  EXPECT_TRUE(words().startsWith("Let ") && words().contains("burn for 12 min")) << words().toStdString();
  undo();
  EXPECT_FALSE(words().contains("burn"));
}

TEST_F(MeterTest, APinIsSetReadTypedAndALampMadeToFit) {
  press("pinSet");
  EXPECT_TRUE(words().contains("Click the place")) << words().toStdString();
  EXPECT_TRUE(pins().empty());
  setPin(0.5, 0.6);
  ASSERT_EQ(pins().size(), 1u);
  EXPECT_EQ(pins()[0].name, "product 1");
  EXPECT_EQ(pins()[0].with, session().shot()->products[0].product) << "it goes along with it";
  EXPECT_GT(dot(pins()[0].normal, session().shot()->camera->place - pins()[0].at), 0.0) << "it faces the camera";
  ASSERT_TRUE(measured());
  const PinReading first = panel_->list().readings()[0];
  EXPECT_GT(first.lux, 1.0);
  setPin(0.1, 0.2);
  ASSERT_EQ(pins().size(), 2u);
  EXPECT_EQ(panel_->list().chosen(), 1u);
  ASSERT_TRUE(measured());
  // By the keyboard: the list goes back to the first, which is read twice as bright.
  auto* list = find<PinList>("pinList");
  list->setFocus();
  QTest::keyClick(list, Qt::Key_Up);
  EXPECT_EQ(list->chosen(), 0u);
  const QString lux = QString::number(2.0 * first.lux, 'f', 1);
  type("field-pin-lux", lux + " lx");
  ASSERT_TRUE(pins()[0].measured);
  EXPECT_NEAR(pins()[0].measured->illuminance_lx, 2.0 * first.lux, 0.1);
  EXPECT_FALSE(pins()[0].measured->at.empty());
  ASSERT_TRUE(measured());
  const std::string who =
      std::max_element(first.by_light.begin(), first.by_light.end(), [](const auto& a, const auto& b) {
        return a.second < b.second;
      })->first;
  choose("meterLight", QString::fromStdString(who));
  const auto lamp = [&] {
    return *std::find_if(session().setup()->lights.begin(), session().setup()->lights.end(),
                         [&](const Light& l) { return l.id == who; });
  };
  const double was = lamp().lumens;
  press("meterCalibrate");
  EXPECT_EQ(find<WordButton>("meterCalibrate")->text(), "Stop");
  press("meterCalibrate");
  EXPECT_EQ(words(), "Stopped");
  QTest::qWait(300);
  EXPECT_EQ(words(), "Stopped") << "nothing comes of it any more";
  press("meterCalibrate");
  ASSERT_TRUE(QTest::qWaitFor([&] { return words().contains("as it was metered"); }, 20000))
      << words().toStdString();
  press("meterTake");
  EXPECT_GT(lamp().lumens, 1.5 * was);
  ASSERT_TRUE(QTest::qWaitFor(
      [&] {
        return measured() && panel_->list().readings()[0].off_stops &&
               std::abs(*panel_->list().readings()[0].off_stops) < 0.1;
      },
      20000));
  undo();
  EXPECT_NEAR(lamp().lumens, was, 1e-6);
  // A reading of nothing is none; a pin is moved, named and taken away.
  type("field-pin-lux", "0");
  EXPECT_FALSE(pins()[0].measured);
  type("field-pin-y", "20 cm");
  EXPECT_NEAR(pins()[0].at.y, 0.2, 1e-6);
  auto* name = find<QLineEdit>("pinName");
  name->setFocus();
  name->selectAll();
  QTest::keyClicks(name, "lid");
  QTest::keyClick(name, Qt::Key_Return);
  EXPECT_EQ(pins()[0].name, "lid");
  list->setFocus();
  QTest::keyClick(list, Qt::Key_Delete);
  ASSERT_EQ(pins().size(), 1u);
  press("pinRemove");
  EXPECT_TRUE(pins().empty());
  EXPECT_TRUE(list->parts().empty());
}

TEST_F(MeterTest, AHandMeterIsJoinedAndRead) {
  setPin(0.5, 0.6);
  ASSERT_TRUE(measured());
  const double forecast = panel_->list().readings()[0].lux;
  const QString socket = QString::fromStdString((folder_ / "meter").string());
  std::string key = session().setup()->lights[0].id;
  meter_.start(CINNABAR_METER, {session().path(), "--socket", socket, "--bounce", "25"});
  ASSERT_TRUE(meter_.waitForReadyRead(20000)) << "it says when it listens";
  auto* field = find<QLineEdit>("meterSocket");
  field->setFocus();
  field->selectAll();
  QTest::keyClicks(field, socket);
  QTest::keyClick(field, Qt::Key_Return);
  auto* read = find<WordButton>("meterRead");
  ASSERT_TRUE(QTest::qWaitFor([&] { return read->isEnabled(); }, 5000)) << words().toStdString();
  press("meterRead");
  ASSERT_TRUE(QTest::qWaitFor([&] { return pins()[0].measured.has_value(); }, 10000)) << words().toStdString();
  EXPECT_GT(pins()[0].measured->illuminance_lx, forecast + 5.0);
  EXPECT_LT(pins()[0].measured->illuminance_lx, forecast + 40.0);
  meter_.kill();
  ASSERT_TRUE(QTest::qWaitFor([&] { return words().contains("gone"); }, 5000)) << words().toStdString();
  EXPECT_FALSE(read->isEnabled());
  press("meterJoin");
  ASSERT_TRUE(QTest::qWaitFor([&] { return words().contains("cinnabar-meter"); }, 5000)) << words().toStdString();
}

TEST_F(MeterTest, WhatIsNoMeterIsSeenThrough) {
  setPin(0.5, 0.6);
  QLocalServer other;
  const QString socket = QString::fromStdString((folder_ / "other").string());
  ASSERT_TRUE(other.listen(socket));
  joinAnswered(other, "meter", "ok teapot\n");
  ASSERT_TRUE(QTest::qWaitFor([&] { return words().contains("no meter"); }, 5000)) << words().toStdString();
  EXPECT_FALSE(panel_->link().joined());
  QLocalSocket* odd = joinAnswered(other, "meter", "ok meter 1\n");
  auto* read = find<WordButton>("meterRead");
  ASSERT_TRUE(QTest::qWaitFor([&] { return read->isEnabled(); }, 5000));
  for (const char* answer : {"ok nan 5600", "ok", "ok 1e999 1", "ok -5 5600", "\xff\xfe"}) {
    press("meterRead");
    ASSERT_TRUE(QTest::qWaitFor([&] { return odd->bytesAvailable() > 0 || odd->waitForReadyRead(10); }, 5000));
    odd->readAll();
    odd->write("ok\n");
    odd->write(QByteArray(answer) + "\n");
    ASSERT_TRUE(QTest::qWaitFor([&] { return words().contains("no number"); }, 5000))
        << answer << words().toStdString();
    EXPECT_FALSE(pins()[0].measured) << answer;
  }
  delete odd;
  ASSERT_TRUE(QTest::qWaitFor([&] { return words().contains("gone"); }, 5000)) << words().toStdString();
}

}  // namespace
}  // namespace cinnabar
