// Pictures out, read back.
#include "cinnabar/formats/pictures.h"

#include <ImfArray.h>
#include <ImfChannelList.h>
#include <ImfFrameBuffer.h>
#include <ImfInputFile.h>
#include <ImfRgbaFile.h>
#include <unistd.h>
#include "private_folder.h"

#include <array>
#include <filesystem>
#include <fstream>
#include <set>

#include "cinnabar/color/picture.h"

namespace cinnabar {
namespace {

namespace fs = std::filesystem;

class PictureFiles : public testing::Test {
 protected:
  FolderOfItsOwn folder_;
};

TEST_F(PictureFiles, PngComesBackPixelForPixel) {
  std::vector<std::uint8_t> rgb;
  for (int i = 0; i < 7 * 5 * 3; ++i) rgb.push_back(static_cast<std::uint8_t>(i * 13));
  const std::string path = folder_.file("picture.png");
  ASSERT_TRUE(write_png(path, 7, 5, rgb));
  std::ifstream in(path, std::ios::binary);
  const std::vector<unsigned char> bytes((std::istreambuf_iterator<char>(in)), {});
  const auto picture = decode_png(bytes, "test");
  ASSERT_TRUE(picture);
  EXPECT_EQ(picture->width, 7);
  EXPECT_EQ(picture->height, 5);
  for (std::size_t p = 0; p < picture->pixels.size(); ++p) {
    const float c = static_cast<float>(rgb[3 * p]) / 255.0f;
    const float linear = c <= 0.04045f ? c / 12.92f : std::pow((c + 0.055f) / 1.055f, 2.4f);  // IEC 61966-2-1
    EXPECT_NEAR(picture->pixels[p].x, linear, 1e-5f);
  }
  for (std::size_t cut = 0; cut + 24 < bytes.size(); cut += 5) {
    EXPECT_FALSE(decode_png({bytes.begin(), bytes.begin() + static_cast<std::ptrdiff_t>(cut)}, "cut")) << cut;
  }
  fs::remove(path);
}

TEST_F(PictureFiles, ExrHoldsLuminancesUnclipped) {
  Picture picture{3, 2, {{1, 2, 3}, {0.001f, 4000, 5}, {7, 8, 9}, {0, 0, 0}, {1, 1, 1}, {2, 2, 2}}};
  const std::string path = folder_.file("picture.exr");
  ASSERT_TRUE(write_exr(path, picture));
  Imf::RgbaInputFile file(path.c_str());
  Imf::Array2D<Imf::Rgba> pixels(2, 3);
  file.setFrameBuffer(&pixels[0][0], 1, 3);
  file.readPixels(0, 1);
  EXPECT_NEAR(pixels[0][1].g, 4000, 4);
  EXPECT_NEAR(pixels[0][0].b, 3, 0.01);
  EXPECT_NEAR(pixels[1][2].r, 2, 0.01);
  fs::remove(path);
}

TEST_F(PictureFiles, ExrNamesItsLayers) {
  const Picture key{2, 1, {{1, 2, 3}, {1e6f, 0, 5}}}, fill{2, 1, {{0.5f, 0.25f, 0.125f}, {1, 1, 1}}};
  const Picture whole{2, 1, {key.pixels[0] + fill.pixels[0], key.pixels[1] + fill.pixels[1]}};
  const std::string path = folder_.file("layers.exr");
  ASSERT_TRUE(write_exr(path, whole, {{"key", key}, {"a b.c", fill}, {"key", fill}, {"", fill}}));
  Imf::InputFile file(path.c_str());
  std::set<std::string> layers;
  file.header().channels().layers(layers);
  EXPECT_EQ(layers, (std::set<std::string>{"key", "a_b_c", "key-2", "layer"}));
  std::array<float, 2> all{}, one{}, other{};
  Imf::FrameBuffer frame;
  const auto read = [&](const char* name, std::array<float, 2>& to) {
    frame.insert(name, Imf::Slice(Imf::FLOAT, reinterpret_cast<char*>(to.data()), sizeof(float), sizeof(to)));
  };
  read("R", all), read("key.R", one), read("a_b_c.R", other);
  file.setFrameBuffer(frame);
  file.readPixels(0, 0);
  EXPECT_EQ(all, (std::array{1.5f, 1000001.0f}));
  for (std::size_t i = 0; i < 2; ++i) EXPECT_EQ(one[i] + other[i], all[i]);
}

TEST_F(PictureFiles, PngSaysThatItIsSrgb) {
  const std::string path = folder_.file("named.png");
  ASSERT_TRUE(write_png(path, 1, 1, {1, 2, 3}));
  std::ifstream in(path, std::ios::binary);
  const std::string bytes((std::istreambuf_iterator<char>(in)), {});
  EXPECT_NE(bytes.find("sRGB"), std::string::npos);  // PNG (ISO/IEC 15948) 11.3.3.5
}

TEST(Pictures, ThatCannotBeWrittenSaySo) {
  const auto png = write_png("/no/such/folder/x.png", 1, 1, {0, 0, 0});
  ASSERT_FALSE(png);
  EXPECT_EQ(png.error().fault, Fault::output);
  EXPECT_FALSE(write_exr("/no/such/folder/x.exr", {1, 1, {{}}}));
}

TEST(Developing, ClipsAsTheSensorClips) {
  const Picture grey{3, 1, {{0.18f, 0.18f, 0.18f}, {1, 1, 1}, {9, 9, 9}}};
  const auto bytes = developed(grey, 1.0);
  EXPECT_NEAR(bytes[0], 255 * 0.461356, 1.0);  // sRGB of 0.18
  EXPECT_EQ(bytes[3], 255);
  EXPECT_EQ(bytes[6], 255);
}

}  // namespace
}  // namespace cinnabar
