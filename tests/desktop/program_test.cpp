// The window's program as it is started: its options, papers without a display, a picture of the window.
#include <QImage>
#include <QProcess>

#include "window_fixture.h"

namespace cinnabar {
namespace {

class ProgramTest : public testing::Test {
 protected:
  struct Answer {
    int code;
    QString out, err;
  };
  void SetUp() override {
    std::string name = (fs::temp_directory_path() / "cinnabar-program-XXXXXX").string();
    folder_ = ::mkdtemp(name.data());
    demo_ = (folder_ / "demo.cinnabar").string();
    make_demo_of(demo_, 2);
  }
  void TearDown() override { fs::remove_all(folder_); }
  /// Where no display is, or on a platform without one.
  Answer run(const QStringList& words, bool display) {
    QProcess program;
    QProcessEnvironment env = QProcessEnvironment::systemEnvironment();
    for (const char* gone : {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"}) env.remove(gone);
    if (display) env.insert("QT_QPA_PLATFORM", "offscreen");
    env.insert("XDG_CONFIG_HOME", QString::fromStdString(folder_.string()));
    program.setProcessEnvironment(env);
    program.start(CINNABAR_PROGRAM, words);
    if (!program.waitForFinished(120000)) {
      program.kill();
      ADD_FAILURE() << "it does not end: " << words.join(' ').toStdString();
    }
    return {program.exitCode(), QString::fromUtf8(program.readAllStandardOutput()),
            QString::fromUtf8(program.readAllStandardError())};
  }
  [[nodiscard]] QString at(const char* name) const { return QString::fromStdString((folder_ / name).string()); }
  [[nodiscard]] QString demo() const { return QString::fromStdString(demo_); }
  static QString wordsOf(const QString& pdf) {
    QProcess reader;
    reader.start("pdftotext", {"-layout", pdf, "-"});
    EXPECT_TRUE(reader.waitForFinished(20000)) << "pdftotext (poppler-utils) is needed";
    return QString::fromUtf8(reader.readAllStandardOutput());
  }
  fs::path folder_;
  std::string demo_;
};

TEST_F(ProgramTest, HelpAndVersionNeedNoDisplay) {
  const Answer help = run({"--help"}, false);
  EXPECT_EQ(help.code, 0) << help.err.toStdString();
  for (const char* option : {"--page", "--shot", "--bench", "--theme", "--level", "--size", "--scale", "--example",
                             "--paper", "--out", "--grab"})
    EXPECT_TRUE(help.out.contains(option)) << option;
  const Answer version = run({"--version"}, false);
  EXPECT_EQ(version.code, 0);
  EXPECT_TRUE(version.out.contains("cinnabar "));
}

TEST_F(ProgramTest, WithoutADisplayTheWindowSaysSo) {
  const Answer answer = run({demo()}, false);
  EXPECT_EQ(answer.code, 1);
  EXPECT_TRUE(answer.err.contains("no display")) << answer.err.toStdString();
}

TEST_F(ProgramTest, TheExampleIsMadeWhereThereIsNothingYet) {
  const std::string file = (folder_ / "new.cinnabar").string();
  const QString name = QString::fromStdString(file);
  EXPECT_EQ(run({name, "--example"}, false).code, 1);
  EXPECT_FALSE(fs::exists(file)) << "without a display nothing is begun";
  const Answer answer = run({name, "--example", "--paper", "list", "--out", at("list.pdf")}, false);
  EXPECT_EQ(answer.code, 0) << answer.err.toStdString();
  const auto made = read_document(file);
  ASSERT_TRUE(made);
  EXPECT_EQ(made->list("shots").size(), 8u);
  const auto before = fs::last_write_time(demo_);
  EXPECT_EQ(run({demo(), "--example", "--paper", "list", "--out", at("list.pdf")}, false).code, 0);
  EXPECT_EQ(fs::last_write_time(demo_), before) << "what is there stays";
}

struct PaperRow {
  const char *paper, *word;
};
class ProgramPaper : public ProgramTest, public testing::WithParamInterface<PaperRow> {};
TEST_P(ProgramPaper, IsWrittenWithoutADisplay) {
  const Answer answer = run({demo(), "--paper", GetParam().paper, "--out", at("out.pdf")}, false);
  ASSERT_EQ(answer.code, 0) << answer.err.toStdString();
  EXPECT_TRUE(wordsOf(at("out.pdf")).contains(GetParam().word)) << wordsOf(at("out.pdf")).toStdString();
}
INSTANTIATE_TEST_SUITE_P(Papers, ProgramPaper,
                         testing::Values(PaperRow{"cards", "Hero reveal"}, PaperRow{"list", "Hero reveal"},
                                         PaperRow{"board", "Hero reveal"}, PaperRow{"crew", "Set-up A"},
                                         PaperRow{"packing", "packing list"}, PaperRow{"settings", "Shutter"}));

struct CodeRow {
  QStringList words;
  int code;
  const char* told;
};
class ProgramCode : public ProgramTest, public testing::WithParamInterface<CodeRow> {};
TEST_P(ProgramCode, IsAsDocumented) {
  QStringList words = GetParam().words;
  words.replaceInStrings("DEMO", demo()).replaceInStrings("OUT", at("out"));
  const Answer answer = run(words, false);
  EXPECT_EQ(answer.code, GetParam().code) << words.join(' ').toStdString() << ": " << answer.err.toStdString();
  EXPECT_TRUE(answer.err.contains(GetParam().told)) << answer.err.toStdString();
  EXPECT_TRUE(fs::exists(demo_));
  EXPECT_TRUE(read_document(demo_)) << "the project is as it was";
}
INSTANTIATE_TEST_SUITE_P(
    Calls, ProgramCode,
    testing::Values(CodeRow{{"DEMO", "--page", "nowhere"}, 2, "--page takes"},
                    CodeRow{{"DEMO", "--bench", "nothing"}, 2, "--bench takes"},
                    CodeRow{{"DEMO", "--theme", "pink"}, 2, "--theme takes"},
                    CodeRow{{"DEMO", "--shot", "0"}, 2, "--shot takes"},
                    CodeRow{{"DEMO", "--size", "12"}, 2, "--size takes"},
                    CodeRow{{"DEMO", "--scale", "20"}, 2, "--scale takes"}, CodeRow{{"--nonsense"}, 2, "nonsense"},
                    CodeRow{{"DEMO", "DEMO"}, 2, "one FILE only"},
                    CodeRow{{"DEMO", "--paper", "poster", "--out", "OUT"}, 2, "--paper takes"},
                    CodeRow{{"DEMO", "--paper", "list"}, 2, "needs --out"},
                    CodeRow{{"--paper", "list", "--out", "OUT"}, 2, "needs a FILE"},
                    CodeRow{{"DEMO", "--out", "OUT"}, 2, "goes with --paper"},
                    CodeRow{{"/no/such.cinnabar", "--paper", "list", "--out", "OUT"}, 3, "is not there"},
                    CodeRow{
                        {"DEMO", "--paper", "list", "--out", "/no/such/folder/x.pdf"}, 1, "could not be written"},
                    CodeRow{{"DEMO", "--paper", "list", "--out", "DEMO"}, 1, "never written over"},
                    CodeRow{{"/no/such.cinnabar", "--grab", "OUT"}, 3, "is not there"},
                    CodeRow{{"--example", "--grab", "OUT"}, 2, "--example needs a FILE"},
                    CodeRow{{"/no/such/folder/new.cinnabar", "--example", "--grab", "OUT"}, 1, "/no/such/folder"},
                    CodeRow{{"DEMO", "--size", "400x300", "--page", "takes", "--grab", "/no/such/folder/x.png"},
                            1,
                            "could not be written"}));

TEST_F(ProgramTest, ThePictureIsOfThePageTheShotTheThemeAndTheSizeAskedFor) {
  const QString two = at("two.cinnabar");
  make_demo_of(two.toStdString(), 2);
  const auto grabbed = [&](const QStringList& words) {
    const Answer answer = run(QStringList{two} + words + QStringList{"--grab", at("g.png")}, false);
    EXPECT_EQ(answer.code, 0) << answer.err.toStdString();
    return QImage(at("g.png"));
  };
  const QImage paper = grabbed({"--page", "takes", "--shot", "2"});
  EXPECT_EQ(paper.size(), QSize(1280, 800));
  const QImage other = grabbed({"--page", "takes", "--shot", "1"}), kit = grabbed({"--page", "kit"}),
               dark = grabbed({"--page", "takes", "--theme", "blackout", "--size", "1024x700"});
  EXPECT_EQ(dark.size(), QSize(1024, 700));
  const auto mean = [](const QImage& image) {
    double sum = 0;
    for (int y = 0; y < image.height(); y += 4)
      for (int x = 0; x < image.width(); x += 4) sum += qGray(image.pixel(x, y));
    return sum / (image.height() / 4) / (image.width() / 4);
  };
  EXPECT_GT(mean(paper), 150) << "bone ground";
  EXPECT_LT(mean(dark), 30) << "near black";
  const auto differing = [](const QImage& a, const QImage& b) {
    int count = 0;
    for (int y = 0; y < a.height(); ++y)
      for (int x = 0; x < a.width(); ++x) count += a.pixel(x, y) != b.pixel(x, y) ? 1 : 0;
    return count;
  };
  EXPECT_GT(differing(paper, other), 2000) << "another shot";
  EXPECT_GT(differing(paper, kit), 100000) << "another page";
}

}  // namespace
}  // namespace cinnabar
