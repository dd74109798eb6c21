// The Brief in the window: products built and changed, features placed and seen, mood and rules, frames and means.
#include <QComboBox>
#include <QImage>
#include <QLabel>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPointer>
#include <QPushButton>

#include "cinnabar/base/files.h"
#include "cinnabar/color/white.h"
#include "cinnabar/desktop/brief/material_sheet.h"
#include "cinnabar/desktop/brief/product_drawing.h"
#include "cinnabar/desktop/pages/brief_page.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

class BriefTest : public WindowTest {
 protected:
  void SetUp() override {
    page_ = "brief";
    WindowTest::SetUp();
    drawing_ = find<ProductDrawing>("productDrawing");
    ASSERT_TRUE(QTest::qWaitFor([&] { return drawing_->isVisible() && drawing_->height() > 100; }, 5000));
  }
  void type(const QString& id, const QString& text) {
    for (NumberField* f : find<BriefPage>("brief")->findChildren<NumberField*>())
      if (!f->isHidden() && f->spec().id == id) {
        f->setFocus();
        QTest::keyClick(f, Qt::Key_Return);
        auto* line = f->findChild<QLineEdit*>();
        ASSERT_NE(line, nullptr) << id.toStdString();
        line->selectAll();
        QTest::keyClicks(line, text);
        QTest::keyClick(line, Qt::Key_Return);
        return;
      }
    ADD_FAILURE() << id.toStdString();
  }
  void pick(const char* box, const QString& text) {
    auto* combo = find<QComboBox>(box);
    const int i = combo->findText(text);
    ASSERT_GE(i, 0) << text.toStdString();
    combo->setCurrentIndex(i);
    emit combo->activated(i);
  }
  void enter(const char* line, const QString& text) {
    auto* edit = find<QLineEdit>(line);
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, text);
    QTest::keyClick(edit, Qt::Key_Return);
  }
  void addFromMesh(const QString& file) {
    QMenu* menu = find<QPushButton>("briefAdd")->menu();
    menu->popup(window_->mapToGlobal(QPoint(40, 40)));
    ASSERT_TRUE(QTest::qWaitFor([&] { return menu->isVisible(); }, 3000));
    QTest::keyClick(menu, Qt::Key_Up);  // the last
    QTest::keyClick(menu, Qt::Key_Return);
    typeFile(file);
  }
  ProductDrawing* drawing_ = nullptr;
};

TEST_F(BriefTest, AProductIsAddedByKindMeasuredAndTakenAway) {
  for (QAction* a : find<QPushButton>("briefAdd")->menu()->actions())
    if (a->text() == "Bottle") a->trigger();
  ASSERT_EQ(session().project().products.size(), 3u);
  type("measure_height", "30 cm");
  EXPECT_EQ(onDisk("/products/2/built/height"), std::optional<Json>(0.3));
  type("measure_neck_diameter", "20 cm");
  EXPECT_EQ(value("/products/2/built/neck_diameter"), std::optional<Json>(0.028)) << "wider than the body";
  EXPECT_TRUE(find<QLabel>("message")->toolTip().contains("is not under Body"));
  type("mass", "1.1 kg");
  EXPECT_EQ(onDisk("/products/2/mass"), std::optional<Json>(1.1));
  enter("briefName", "Still water");
  EXPECT_EQ(onDisk("/products/2/name"), std::optional<Json>("Still water"));
  press("briefLabel");
  EXPECT_TRUE(value("/products/2/label").has_value());
  type("label_arc", "140");
  EXPECT_EQ(onDisk("/products/2/label/arc_deg"), std::optional<Json>(140.0));
  pick("briefKind", "Can");
  EXPECT_EQ(value("/products/2/built/kind"), std::optional<Json>("can"));
  EXPECT_EQ(value("/products/2/label/part"), std::optional<Json>("body"));
  pick("briefMaterial0", "gloss");
  EXPECT_EQ(onDisk("/products/2/parts/0/material/kind"), std::optional<Json>("gloss"));
  press("briefRemove");
  EXPECT_EQ(session().project().products.size(), 2u);
  press("briefRemove");
  EXPECT_EQ(session().project().products.size(), 2u) << "shots use the jar";
}

TEST_F(BriefTest, APartIsMadeOfAnotherMaterialAndCovered) {
  // The lid by the keyboard: opened, gone through by letters, taken with Enter.
  auto* button = find<WordButton>("briefMaterials");
  button->setFocus();
  QTest::keyClick(button, Qt::Key_Space);
  auto* sheet = find<QDialog>("materialSheet");
  ASSERT_NE(sheet, nullptr);
  auto* list = find<QListWidget>("materialList");
  ASSERT_EQ(list->count(), static_cast<int>(ready_materials().size()));
  const auto blank = [&](int i) {  // an icon without a picture is of one tone
    const QImage icon = list->item(i)->icon().pixmap(Swatches::wide, Swatches::tall).toImage();
    return icon.pixelColor(42, 48) == icon.pixelColor(5, 5) && icon.pixelColor(42, 70) == icon.pixelColor(5, 5);
  };
  ASSERT_TRUE(QTest::qWaitFor(
      [&] {
        const int looked_at = qEnvironmentVariableIsSet("CINNABAR_LOOK") ? list->count() : 3;
        for (int i = 0; i < looked_at; ++i)
          if (blank(i)) return false;
        return true;
      },
      120000))
      << "materials are shown as they are traced, one after another";
  if (const QString to = qEnvironmentVariable("CINNABAR_LOOK"); !to.isEmpty())
    sheet->grab().save(to + "/sheet.png");
  pick("materialPart", "lid");
  EXPECT_TRUE(find<QLabel>("materialWords")->text().contains("of its own"));
  list->setFocus();
  QTest::keyClicks(list, "gold");
  QTest::keyClick(list, Qt::Key_Return);
  EXPECT_EQ(value("/products/0/parts/2/material/roughness"), std::optional<Json>(0.15));
  EXPECT_EQ(value("/products/0/parts/2/material/colour/0"), std::optional<Json>(0.62)) << "its own colour is kept";
  EXPECT_FALSE(value("/products/0/parts/2/material/brushing").has_value());
  // The glass by mouse, with drops on it.
  pick("materialPart", "glass");
  pick("materialCover", "with drops");
  pick("materialMuch", "on 15 % of it");
  for (int i = 0; i < list->count(); ++i)
    if (list->item(i)->text() == "clear glass") {
      list->scrollToItem(list->item(i));
      QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(i)).center());
    }
  press("materialTake");
  EXPECT_EQ(onDisk("/products/0/parts/0/material/cover/kind"), std::optional<Json>("droplets"));
  EXPECT_EQ(value("/products/0/parts/0/material/cover/share"), std::optional<Json>(0.15));
  EXPECT_TRUE(find<QLabel>("materialWords")->text().contains("clear glass"));
  // A label is thin: no water, no wax.
  pick("materialPart", "the label");
  for (int i = 0; i < list->count(); ++i) EXPECT_NE(list->item(i)->text(), "candle wax");
  const QPointer<QDialog> gone(sheet);
  QTest::keyClick(sheet, Qt::Key_Escape);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !gone; }, 5000));
  window_->activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
  QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
  EXPECT_TRUE(QTest::qWaitFor([&] { return !value("/products/0/parts/0/material/cover").has_value(); }, 5000));
}

TEST_F(BriefTest, AMeshIsCheckedAgainstItsMeasuredHeightAndTakenIn) {
  const std::string file = (folder_ / "crate.obj").string();
  ASSERT_TRUE(write_file(file,
                         "v -4 0 -3\nv 4 0 -3\nv 4 0 3\nv -4 0 3\nv -4 16 -3\nv 4 16 -3\nv 4 16 3\nv -4 16 3\n"
                         "f 1 2 3 4\nf 4 3 7 8\nf 2 1 5 6\nf 3 2 6 7\nf 1 4 8 5\nf 8 7 6 5\n"));
  addFromMesh(QString::fromStdString(file));
  auto* sheet = find<QDialog>("meshSheet");
  ASSERT_TRUE(QTest::qWaitFor([&] { return find<QLabel>("meshSize")->text().contains("12 triangles"); }, 10000));
  auto* add = find<QPushButton>("meshAdd");
  EXPECT_FALSE(add->isEnabled()) << "its height is not typed";
  auto* height = find<QLineEdit>("meshHeight");
  height->setFocus();
  QTest::keyClicks(height, "16 cm");
  auto* remarks = find<QPlainTextEdit>("meshRemarks");
  ASSERT_TRUE(
      QTest::qWaitFor([&] { return remarks->toPlainText().contains("In centimetres it would agree"); }, 5000))
      << remarks->toPlainText().toStdString();
  EXPECT_FALSE(add->isEnabled());
  pick("meshUnit", "centimetres");
  ASSERT_TRUE(QTest::qWaitFor([&] { return add->isEnabled(); }, 5000));
  EXPECT_TRUE(remarks->toPlainText().isEmpty()) << remarks->toPlainText().toStdString();
  const QPointer<QDialog> gone(sheet);
  QTest::mouseClick(add, Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().project().products.size() == 3; }, 5000));
  EXPECT_EQ(session().project().products[2]->name, "crate");
  EXPECT_EQ(onDisk("/products/2/parts/0/material/kind"), std::optional<Json>("satin"));
  ASSERT_TRUE(QTest::qWaitFor([&] { return !gone; }, 5000));
  press("briefLabel");
  EXPECT_TRUE(value("/products/2/label").has_value());
  // What is no mesh is said, and nothing comes of it.
  ASSERT_TRUE(write_file((folder_ / "none.obj").string(), "no mesh at all\n"));
  addFromMesh(inFolder("none.obj"));
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return find<QPlainTextEdit>("meshRemarks")->toPlainText().contains("none.obj"); }, 10000))
      << find<QPlainTextEdit>("meshRemarks")->toPlainText().toStdString();
  QTest::keyClick(find<QDialog>("meshSheet"), Qt::Key_Escape);
  EXPECT_EQ(session().project().products.size(), 3u);
}

TEST_F(BriefTest, ALabelsPictureIsReadAndAWrongFileSaid) {
  QImage picture(64, 32, QImage::Format_RGB32);
  picture.fill(Qt::blue);
  const QString file = QString::fromStdString((folder_ / "label.jpg").string());
  ASSERT_TRUE(picture.save(file));
  press("briefLabelPicture");
  typeFile(file);
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return value("/products/0/label/picture") == std::optional<Json>("label-jar"); }, 5000));
  session().flush();
  const auto kept = read_document(path_);
  EXPECT_EQ(kept->blobs.at("label-jar")->fields.at("type"), "image/png");
  ASSERT_TRUE(write_file(file.toStdString(), "no picture"));
  press("briefLabelPicture");
  typeFile(file);
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return find<QLabel>("message")->toolTip().contains("no picture that can be read"); }, 5000));
  // A drawing that says it is 30,000 pixels a side is refused before memory is taken; one of a fitting size is
  // kept.
  const QString svg = inFolder("label.svg");
  const auto drawing = [](int side) {
    return fmt::format(
        "<svg xmlns='http://www.w3.org/2000/svg' width='{0}' height='{0}'><rect width='{0}' "
        "height='{0}' fill='#c01020'/></svg>",
        side);
  };
  ASSERT_TRUE(write_file(svg.toStdString(), drawing(30000)));
  press("briefLabelPicture");
  typeFile(svg);
  ASSERT_TRUE(
      QTest::qWaitFor([&] { return find<QLabel>("message")->toolTip().contains("30000 x 30000 pixels"); }, 5000));
  ASSERT_TRUE(write_file(svg.toStdString(), drawing(4000)));
  press("briefLabelPicture");
  typeFile(svg);
  ASSERT_TRUE(QTest::qWaitFor(
      [&] {
        const auto& label = session().project().products[0]->label;
        return label && label->image && label->image->width == 1024;
      },
      10000));
  const Rgb colour = session().project().products[0]->label->image->sample(0.5f, 0.5f);
  EXPECT_NEAR(colour.x, srgb_decode(0xC0 / 255.0), 1e-3);  // IEC 61966-2-1
}

TEST_F(BriefTest, FeaturesAreAddedDraggedNamedAndSeenInAShot) {
  auto* seen = find<BriefSeen>("briefSeen");
  ASSERT_TRUE(QTest::qWaitFor([&] { return seen->views().size() == 2; }, 30000));
  for (const FeatureView& v : seen->views()) {
    EXPECT_EQ(v.level().state, State::level) << v.name;
    EXPECT_TRUE(v.shot.has_value());
  }
  seen->setFocus();
  QTest::keyClick(seen, Qt::Key_Insert);
  ASSERT_EQ(session().project().products[0]->features.size(), 3u);
  EXPECT_EQ(seen->chosen(), std::optional<std::size_t>(2));
  const QPoint from = drawing_->mark(2).toPoint();
  drag(drawing_, from, QPointF(from.x() + 15, from.y() + 25));
  const Feature f = session().project().products[0]->features[2];
  EXPECT_GT(f.at.x, 0.003);
  EXPECT_LT(f.at.y, 0.05);
  EXPECT_NEAR(std::hypot(f.at.x, f.at.z), 0.038, 1e-3) << "on the glass";
  enter("featureName", "the seal");
  press("featureRead");
  type("feature_detail", "3 mm");
  EXPECT_EQ(onDisk("/products/0/features/2/name"), std::optional<Json>("the seal"));
  EXPECT_EQ(onDisk("/products/0/features/2/read"), std::optional<Json>(true));
  EXPECT_EQ(onDisk("/products/0/features/2/detail"), std::optional<Json>(0.003));
  type("feature_bearing", "180");
  EXPECT_LT(session().project().products[0]->features[2].at.z, -0.03);
  ASSERT_TRUE(QTest::qWaitFor([&] { return seen->views().size() == 3 && !seen->views()[2].seen.seen(); }, 30000))
      << "no shot looks behind";
  // A feature that shots promise goes with their promise.
  QTest::keyClick(seen, Qt::Key_Up);
  QTest::keyClick(seen, Qt::Key_Up);
  EXPECT_EQ(seen->chosen(), std::optional<std::size_t>(0));
  seen->setFocus();
  QTest::keyClick(seen, Qt::Key_Delete);
  EXPECT_EQ(session().project().products[0]->features.size(), 2u);
  for (const auto& shot : session().project().shots)
    EXPECT_EQ(std::count(shot->features.begin(), shot->features.end(), "jar/name"), 0) << shot->id;
}

TEST_F(BriefTest, MoodAndRulesAreChosenWithTheirReasons) {
  pick("briefMood", "gentle");
  EXPECT_EQ(onDisk("/project/mood"), std::optional<Json>("gentle"));
  EXPECT_TRUE(find<QLabel>("briefMoodSays")->text().contains("over 12 mm"));
  pick("rule-shutter", "much shorter");
  EXPECT_EQ(onDisk("/house_rules/shutter"), std::optional<Json>("crisp"));
  EXPECT_TRUE(find<QLabel>("reason-shutter")->text().startsWith("every drop stands still"));
  pick("briefMood", "none chosen");
  EXPECT_FALSE(onDisk("/project/mood").has_value());
}

TEST_F(BriefTest, DeliverablesAndMeansSayWhatDoesNotFit) {
  press("deliverableAdd");
  EXPECT_EQ(session().project().deliverables.size(), 3u);
  type("d_width", "1350");
  EXPECT_EQ(onDisk("/deliverables/2/width"), std::optional<Json>(1350.0));
  type("d_longest", "15");
  EXPECT_TRUE(find<QLabel>("briefSays")->text().contains("5.0 s over its longest"))
      << find<QLabel>("briefSays")->text().toStdString();
  type("d_longest", "none");
  EXPECT_FALSE(onDisk("/deliverables/2/longest").has_value());
  press("deliverableWords");
  type("w_last", "2");
  EXPECT_EQ(onDisk("/deliverables/2/words/last_seconds"), std::optional<Json>(2.0));
  press("deliverableRemove");
  EXPECT_EQ(session().project().deliverables.size(), 2u);
  type("m_width", "2 m");
  type("m_depth", "2 m");
  EXPECT_TRUE(find<QLabel>("briefSays")->text().contains("too small for set-up"));
  EXPECT_EQ(onDisk("/project/means/room_width"), std::optional<Json>(2.0));
  for (const auto* label : window_->findChildren<QLabel*>())  // marks are read as marks, not shown
    EXPECT_TRUE(label->textFormat() != Qt::PlainText || !label->text().contains("<span"))
        << label->text().toStdString();
}

TEST_F(BriefTest, PeopleDayAndPlaceSayWhatTheShotsAsk) {
  auto* says = find<QLabel>("briefSays");
  session().keep("Three are needed", {{"/shots/0/hands", 3}});
  EXPECT_TRUE(says->text().contains("Shot 1 needs 3 people")) << says->text().toStdString();
  type("m_hands", "3");
  EXPECT_EQ(onDisk("/project/means/hands"), std::optional<Json>(3.0));
  EXPECT_FALSE(says->text().contains("needs 3 people"));
  type("m_date", "2026-06-21");
  type("m_latitude", "51.5");
  type("m_longitude", "0");
  EXPECT_EQ(onDisk("/project/date"), std::optional<Json>("2026-06-21"));
  EXPECT_TRUE(says->text().contains("at most 62\u00b0 high")) << says->text().toStdString();
  type("m_date", "the third");
  EXPECT_EQ(value("/project/date"), std::optional<Json>("2026-06-21"));
  type("m_date", "none");
  EXPECT_EQ(value("/project/date"), std::nullopt);
  type("d_rate", "25");
  EXPECT_EQ(onDisk("/deliverables/0/rate"), std::optional<Json>("25"));
  EXPECT_TRUE(says->text().contains("runs at 25 and the timeline at 24")) << says->text().toStdString();
  type("d_rate", "23.976");
  EXPECT_EQ(onDisk("/deliverables/0/rate"), std::optional<Json>("24000/1001"));
  type("d_rate", "48");
  EXPECT_FALSE(says->text().contains("frames would be repeated")) << "each frame twice";
  type("d_loudness", "-16");
  EXPECT_EQ(onDisk("/deliverables/0/loudness"), std::optional<Json>(-16.0));
  pick("rule-order", "as the story runs");
  EXPECT_TRUE(says->text().contains("in the order 1, 2, 3, 4, 5, 6, 7, 8")) << says->text().toStdString();
}

TEST_F(BriefTest, ThePictureTurnsAndAnEmptyProjectSaysHowToBegin) {
  auto* picture = find<ProductPicture>("productPicture");
  ASSERT_TRUE(QTest::qWaitFor([&] { return picture->made(); }, 30000));
  picture->setFocus();
  QTest::keyClick(picture, Qt::Key_Right);
  EXPECT_EQ(picture->turn(), 15);
  EXPECT_TRUE(
      QTest::qWaitFor([&] { return find<QLabel>("briefAdvice")->text().startsWith("Key colour"); }, 10000));
  window_.reset();
  path_ = (folder_ / "new.cinnabar").string();
  fs::remove(path_);
  ASSERT_TRUE(Store::create(path_, empty_document("New")));
  open({.page = "brief"});
  EXPECT_TRUE(find<QLabel>("briefAdvice")->text().contains("No product yet"));
  for (QAction* a : find<QPushButton>("briefAdd")->menu()->actions())
    if (a->text() == "Jar") a->trigger();
  EXPECT_EQ(session().project().products.size(), 1u);
}

}  // namespace
}  // namespace cinnabar
