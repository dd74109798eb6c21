#include "cinnabar/formats/pictures.h"

#include <ImfChannelList.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfOutputFile.h>
#include <ImfStandardAttributes.h>
#include <png.h>

#include <algorithm>
#include <cctype>

#include "cinnabar/base/files.h"

namespace cinnabar {
namespace {
tl::unexpected<Error> not_written(const std::string& path, const std::string& why) {
  return fail(path, "could not be written (" + why + ")",
              "check the folder, its permissions and the room on the disk", Fault::output);
}
}  // namespace

Expected<void> write_png(const std::string& path, int width, int height, const std::vector<std::uint8_t>& rgb) {
  png_image image{};
  image.version = PNG_IMAGE_VERSION;
  image.width = static_cast<png_uint_32>(width);
  image.height = static_cast<png_uint_32>(height);
  image.format = PNG_FORMAT_RGB;
  auto beside = FileBeside::at(path);
  if (!beside) return tl::unexpected(beside.error());
  if (!png_image_write_to_file(&image, beside->beside().c_str(), 0, rgb.data(), 0, nullptr))
    return not_written(path, image.message);
  return beside->keep();
}

std::optional<std::vector<std::uint8_t>> read_png(const std::string& path, int width, int height) {
  const auto bytes = read_file(path);
  png_image image{};
  image.version = PNG_IMAGE_VERSION;
  if (!bytes || !png_image_begin_read_from_memory(&image, bytes->data(), bytes->size())) return std::nullopt;
  image.format = PNG_FORMAT_RGB;
  if (image.width != static_cast<png_uint_32>(width) || image.height != static_cast<png_uint_32>(height)) {
    png_image_free(&image);
    return std::nullopt;
  }
  std::vector<std::uint8_t> rgb(PNG_IMAGE_SIZE(image));
  if (!png_image_finish_read(&image, nullptr, rgb.data(), 0, nullptr)) return std::nullopt;
  return rgb;
}

namespace {

/// Names as any reader takes them: letters, digits and "-", each once.
std::vector<std::string> layer_names(const std::vector<PictureLayer>& layers) {
  std::vector<std::string> names;
  for (const PictureLayer& layer : layers) {
    std::string name;
    for (const char c : layer.name) name += std::isalnum(static_cast<unsigned char>(c)) || c == '-' ? c : '_';
    name = name.empty() ? "layer" : name.substr(0, 200);
    const std::string first = name;
    for (int k = 2; std::find(names.begin(), names.end(), name) != names.end(); ++k)
      name = first + "-" + std::to_string(k);
    names.push_back(name);
  }
  return names;
}

void add_channels(Imf::Header& header, Imf::FrameBuffer& frame, const std::string& before,
                  const Picture& picture) {
  auto* base = reinterpret_cast<char*>(const_cast<Rgb*>(picture.pixels.data()));
  const std::size_t down = sizeof(Rgb) * static_cast<std::size_t>(picture.width);
  for (const char* colour : {"R", "G", "B"}) {
    header.channels().insert(before + colour, Imf::Channel(Imf::FLOAT));
    frame.insert(before + colour, Imf::Slice(Imf::FLOAT, base, sizeof(Rgb), down));
    base += sizeof(float);
  }
}

}  // namespace

Expected<void> write_exr(const std::string& path, const Picture& picture,
                         const std::vector<PictureLayer>& layers) {
  auto beside = FileBeside::at(path);
  if (!beside) return tl::unexpected(beside.error());
  try {
    Imf::Header header(picture.width, picture.height);
    header.compression() = Imf::ZIP_COMPRESSION;
    Imf::addChromaticities(header, Imf::Chromaticities());  // the default: BT.709 and D65
    Imf::addWhiteLuminance(header, 1.0f);                   // a value is a candela per square metre
    Imf::FrameBuffer frame;
    add_channels(header, frame, "", picture);
    const auto names = layer_names(layers);
    for (std::size_t i = 0; i < layers.size(); ++i) add_channels(header, frame, names[i] + ".", layers[i].picture);
    Imf::OutputFile file(beside->beside().c_str(), header);
    file.setFrameBuffer(frame);
    file.writePixels(picture.height);
  } catch (const std::exception& e) {
    return not_written(path, e.what());
  }
  return beside->keep();
}

}  // namespace cinnabar
