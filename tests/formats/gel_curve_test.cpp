// Curves of gels as makers write them, and as nobody should.
#include "cinnabar/formats/gel_curve.h"

#include <gtest/gtest.h>

namespace cinnabar {
namespace {

TEST(GelCurve, IsReadInSharesAndInPerCent) {
  const std::vector<PassedAt> wanted{{400, 0.1}, {560, 0.5}, {700, 0.9}};
  for (const char* text : {"nm,share\r\n400,0.1\r\n560,0.5\r\n700,0.9\r\n", "700;90\n400;10\n560;50\n",
                           "wavelength,T\n400,10 %\n560,50%\n700,90%", "400,10,x\n\n560,50,y\n700,90,z\n"}) {
    const auto read = read_gel_curve(text, "gel.csv");
    ASSERT_TRUE(read) << text << read.error().text();
    ASSERT_EQ(read->size(), wanted.size());
    for (std::size_t i = 0; i < wanted.size(); ++i) {
      EXPECT_EQ((*read)[i].nm, wanted[i].nm);
      EXPECT_NEAR((*read)[i].share, wanted[i].share, 1e-12);
    }
  }
}

TEST(GelCurve, SaysWhereItIsNone) {
  const struct {
    std::string text, place;
  } rows[]{{"", "gel.csv"},
           {"400,0.5\n", "gel.csv"},
           {"nm,share\n", "gel.csv"},
           {"400,0.5\n400,0.6\n", "gel.csv"},
           {"400\n500\n", "gel.csv line 1"},
           {"400,0.5\nabc,0.6\n", "gel.csv line 2"},
           {"nm,share\n400,0.5\n500,nan\n", "gel.csv line 3"},
           {"nm,share\n400,0.5\n500,-1\n", "gel.csv line 3"},
           {"400,0.5\n5000,0.5\n", "gel.csv line 2"},
           {"400,0.5\ninf,0.5\n", "gel.csv line 2"},
           {"400,0.5\n500,101\n", "gel.csv line 2"},
           {"400,0.5\n500,1e999\n", "gel.csv line 2"}};
  for (const auto& row : rows) {
    const auto read = read_gel_curve(row.text, "gel.csv");
    ASSERT_FALSE(read) << row.text;
    EXPECT_EQ(read.error().place, row.place) << row.text;
    EXPECT_FALSE(read.error().mend.empty());
    EXPECT_EQ(read.error().fault, Fault::input);
  }
}

TEST(GelCurve, OutlivesWhateverItIsGiven) {
  std::string whole = "nm,share\n";
  for (int nm = 380; nm <= 780; nm += 5) whole += std::to_string(nm) + ",0." + std::to_string(nm % 97) + "\n";
  for (std::size_t cut = 0; cut < whole.size(); cut += 7) (void)read_gel_curve(whole.substr(0, cut), "cut.csv");
  unsigned random = 1;
  for (int k = 0; k < 300; ++k) {
    std::string damaged = whole;
    for (int n = 0; n < 5; ++n) {
      random = random * 1664525u + 1013904223u;
      damaged[random % damaged.size()] = static_cast<char>(random >> 24);
    }
    if (const auto read = read_gel_curve(damaged, "damaged.csv"))
      for (const PassedAt& p : *read) {
        EXPECT_TRUE(p.nm >= 300 && p.nm <= 900) << p.nm;
        EXPECT_TRUE(p.share >= 0 && p.share <= 1) << p.share;
      }
  }
  std::string huge;
  for (int k = 0; k < 5000; ++k) huge += "400." + std::to_string(k) + ",0.5\n";
  EXPECT_FALSE(read_gel_curve(huge, "huge.csv"));
  EXPECT_FALSE(read_gel_curve(std::string(100000, ','), "commas.csv"));
}

}  // namespace
}  // namespace cinnabar
