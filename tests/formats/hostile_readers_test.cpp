// Every reader of what comes from outside, handed what is torn, scrambled, huge and hostile: it answers with a
// value that holds or with an error that names the place and the mend. Run under the sanitizers too.
#include <cstdlib>
#include <random>

#include "cinnabar/base/encoding.h"
#include "cinnabar/formats/pictures.h"
#include "cinnabar/formats/shot_merge.h"
#include "cinnabar/formats/tables.h"
#include "cinnabar/photometry/ies.h"
#include "cinnabar/project/document/json_text.h"
#include "cinnabar/project/model/blobs.h"
#include "private_folder.h"
#include "worlds.h"

namespace cinnabar {
namespace {

const Document& project() {
  static const Document document = [] {
    Json doc = worlds::bare();
    worlds::add_cylinder(doc, {{"kind", "gloss"}}, true);
    Json second = doc["shots"][0];
    second["id"] = "s2";
    doc["shots"].push_back(second);
    doc["takes"].push_back({{"id", "t1"}, {"shot", "s1"}, {"number", 1}, {"kept", true}});
    return *Document::from_json(doc);
  }();
  return document;
}

/// An error must be one that can be shown and followed.
template <class T>
void hold(const Expected<T>& read) {
  if (read) return;
  EXPECT_FALSE(read.error().message.empty());
  EXPECT_FALSE(read.error().mend.empty()) << read.error().text();
  EXPECT_TRUE(is_utf8(read.error().text()));
}
void hold_edit(const Edit& edit) { EXPECT_TRUE(validate(applied(project(), edit)).empty()); }

using Feed = void (*)(const std::string& bytes);
struct Reader {
  const char* name;
  std::string good;
  Feed feed;
};

const std::string& ies() {
  static const std::string text =
      "IESNA:LM-63-2002\n[TEST] OWN\nTILT=NONE\n1 -1 1 3 2 1 2 0.3 0.3 0\n1 1 60\n0 45 90\n0 90\n100 70 0\n100 75 "
      "2\n";
  return text;
}
std::string png() {
  const FolderOfItsOwn folder;
  std::vector<std::uint8_t> rgb(16 * 12 * 3);
  for (std::size_t k = 0; k < rgb.size(); ++k) rgb[k] = static_cast<std::uint8_t>(k * 7);
  EXPECT_TRUE(write_png(folder.file("p.png"), 16, 12, rgb));
  return bytes_of(folder.file("p.png"));
}
std::string stl() {
  const std::vector<Vec3f> corners{{0, 0, 0}, {0.1f, 0, 0}, {0, 0.1f, 0}, {0, 0, 0}, {0, 0.1f, 0}, {0, 0, 0.1f}};
  const auto bytes = stl_of(corners);
  return {bytes.begin(), bytes.end()};
}

const std::vector<Reader>& readers() {
  static const std::vector<Reader> list{
      {"project JSON", json_text(project().to_json(), 1),
       [](const std::string& bytes) {
         const auto value = parse_json(bytes, "p.json");
         hold(value);
         if (!value || !validate(*value).empty()) return;
         const auto document = Document::from_json(*value);
         ASSERT_TRUE(document);
         ProjectReader reader;
         (void)reader.read(*document);
       }},
      {"shots as JSON", json_text(shots_json(project()), 1),
       [](const std::string& bytes) {
         const auto read = shots_from_text(project(), bytes, "s.json");
         hold(read);
         if (read) hold_edit(read->edit);
       }},
      {"table of shots", csv_written(shot_table(ProjectReader().read(project()))),
       [](const std::string& bytes) {
         const auto read = shots_from_table(project(), bytes, "s.csv");
         hold(read);
         if (read) hold_edit(read->edit);
       }},
      {"table of takes", csv_written(take_table(ProjectReader().read(project()))),
       [](const std::string& bytes) {
         const auto read = takes_from_table(project(), bytes, "t.csv");
         hold(read);
         if (read) hold_edit(read->edit);
       }},
      {"list in words", "1. Opening, 3 s, wide, 50 mm, f/4\n- Pour - 48 frames; 4x slow | set-up A\nEnding\n",
       [](const std::string& bytes) {
         const auto read = shots_from_words(project(), bytes);
         hold(read);
         if (read) hold_edit(read->edit);
       }},
      {"measured light", ies(),
       [](const std::string& bytes) {
         const auto read = read_ies(bytes, "l.ies");
         hold(read);
         if (read) {
           EXPECT_TRUE(std::isfinite(read->lumens()));
           EXPECT_TRUE(std::isfinite(read->peak()));
         }
       }},
      {"picture", png(),
       [](const std::string& bytes) {
         const auto read = decode_png({bytes.begin(), bytes.end()}, "p.png");
         hold(read);
         if (read) {
           EXPECT_EQ(read->pixels.size(),
                     static_cast<std::size_t>(read->width) * static_cast<std::size_t>(read->height));
         }
       }},
      {"part's triangles", stl(), [](const std::string& bytes) {
         const auto read = corners_of_stl({bytes.begin(), bytes.end()});
         hold(read);
         if (read) (void)part_mesh(*read);
       }}};
  return list;
}

/// How many of each; more where CINNABAR_HOSTILE says so (the long tests).
int rounds() {
  const char* many = std::getenv("CINNABAR_HOSTILE");
  return many ? std::max(1, std::atoi(many)) : 150;
}

class HostileReader : public testing::TestWithParam<std::size_t> {
 protected:
  [[nodiscard]] const Reader& reader() const { return readers()[GetParam()]; }
  void feed(const std::string& bytes) {
    reader().feed(bytes);
    ++fed_;
  }
  void TearDown() override { RecordProperty("inputs", fed_); }
  int fed_ = 0;
};

TEST_P(HostileReader, TakesItsOwnFormatAndNothing) {
  reader().feed(reader().good);
  for (const char* nothing : {"", " ", "\n\n\n", "\xEF\xBB\xBF", "\xFF\xFE"}) feed(nothing);
}

TEST_P(HostileReader, SurvivesBeingCutAnywhere) {
  const std::string& good = reader().good;
  const std::size_t step = std::max<std::size_t>(1, good.size() / 400);
  for (std::size_t at = 0; at < good.size(); at += step) feed(good.substr(0, at));
}

TEST_P(HostileReader, SurvivesChangedBytes) {
  std::mt19937 random(GetParam() + 1);
  for (int k = 0; k < rounds(); ++k) {
    std::string bytes = reader().good;
    for (unsigned n = 1 + random() % 6; n > 0; --n)
      bytes[random() % bytes.size()] = static_cast<char>(random() % 256);
    feed(bytes);
  }
}

TEST_P(HostileReader, SurvivesWordsThatMeanNoGood) {
  const std::vector<std::string> poisons{"nan",
                                         "inf",
                                         "-inf",
                                         "1e999",
                                         "-1",
                                         "0",
                                         "99999999999999999999",
                                         "1e-320",
                                         "null",
                                         "[]",
                                         "{}",
                                         "\"\"",
                                         "true",
                                         "=cmd|' /C calc'!A0",
                                         std::string(5000, '9'),
                                         std::string(2000, '[') + std::string(2000, ']'),
                                         std::string("\0\0\0\0", 4),
                                         "\xF0\x9F\x98\x80",
                                         "\xED\xA0\x80",
                                         "%s%n%x",
                                         "../../../etc/passwd"};
  std::mt19937 random(GetParam() + 31);
  const std::string& good = reader().good;
  std::vector<std::size_t> places;  // where numbers and words begin
  for (std::size_t k = 1; k < good.size(); ++k)
    if (std::isalnum(static_cast<unsigned char>(good[k])) &&
        !std::isalnum(static_cast<unsigned char>(good[k - 1])))
      places.push_back(k);
  if (places.empty()) places.push_back(0);
  for (int k = 0; k < rounds(); ++k) {
    std::string bytes = good;
    const std::size_t from = places[random() % places.size()];
    std::size_t to = from;
    while (to < bytes.size() && (std::isalnum(static_cast<unsigned char>(bytes[to])) || bytes[to] == '.')) ++to;
    bytes.replace(from, to - from, poisons[random() % poisons.size()]);
    feed(bytes);
  }
}

TEST_P(HostileReader, SurvivesPartsRepeatedSwappedAndLeftOut) {
  std::mt19937 random(GetParam() + 77);
  for (int k = 0; k < rounds(); ++k) {
    std::string bytes = reader().good;
    const std::size_t from = random() % bytes.size(),
                      size = 1 + random() % std::min<std::size_t>(300, bytes.size() - from);
    const std::string piece = bytes.substr(from, size);
    if (random() % 3 == 0)
      bytes.erase(from, size);
    else
      for (unsigned n = 1 + random() % 3; n > 0; --n) bytes.insert(random() % bytes.size(), piece);
    feed(bytes);
  }
}

TEST_P(HostileReader, SurvivesAnyBytes) {
  std::mt19937 random(GetParam() + 5);
  for (int k = 0; k < rounds(); ++k) {
    std::string bytes(random() % 600, '\0');
    for (char& c : bytes) c = static_cast<char>(random() % 256);
    feed(bytes);
  }
}

INSTANTIATE_TEST_SUITE_P(All, HostileReader, testing::Range(std::size_t{0}, readers().size()),
                         [](const auto& param) {
                           std::string name = readers()[param.param].name;
                           std::replace_if(
                               name.begin(), name.end(),
                               [](char c) { return !std::isalnum(static_cast<unsigned char>(c)); }, '_');
                           return name;
                         });

/// PNG, ISO/IEC 15948: a header that promises more than memory holds is refused by its numbers.
TEST(HostilePicture, AHugeSizeIsRefusedBeforeMemoryIsTaken) {
  std::string bytes = png();
  for (const std::uint32_t size : {30000u, 0x7FFFFFFFu, 0u}) {
    for (const std::size_t at : {16u, 20u})
      for (std::size_t k = 0; k < 4; ++k) bytes[at + k] = static_cast<char>(size >> (24 - 8 * k));
    EXPECT_FALSE(decode_png({bytes.begin(), bytes.end()}, "p.png")) << size;
  }
}

TEST(LargePicture, IsAveragedDownToWhatIsKept) {
  const FolderOfItsOwn folder;
  std::vector<std::uint8_t> rgb(static_cast<std::size_t>(4100) * 1100 * 3, 0);
  for (std::size_t k = 0; k < rgb.size(); k += 6)
    rgb[k] = rgb[k + 1] = rgb[k + 2] = 255;  // every other column white
  ASSERT_TRUE(write_png(folder.file("p.png"), 4100, 1100, rgb));
  const std::string bytes = bytes_of(folder.file("p.png"));
  const auto read = decode_png({bytes.begin(), bytes.end()}, "p.png");
  ASSERT_TRUE(read);
  EXPECT_LE(read->pixels.size(), most_pixels);
  EXPECT_EQ(read->width, 2050);
  EXPECT_EQ(read->height, 550);
  for (const std::size_t at : {std::size_t{0}, read->pixels.size() / 2, read->pixels.size() - 1})
    EXPECT_NEAR(read->pixels[at].x, 0.5f, 1e-5f) << "the mean in linear light";
}

}  // namespace
}  // namespace cinnabar
