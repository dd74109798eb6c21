#include "cinnabar/formats/pictures.h"

#include <ImfChannelList.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfOutputFile.h>
#include <png.h>

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

Expected<void> write_exr(const std::string& path, const Picture& picture) {
  auto beside = FileBeside::at(path);
  if (!beside) return tl::unexpected(beside.error());
  try {
    Imf::Header header(picture.width, picture.height);
    for (const char* name : {"R", "G", "B"}) header.channels().insert(name, Imf::Channel(Imf::FLOAT));
    Imf::OutputFile file(beside->beside().c_str(), header);
    Imf::FrameBuffer frame;
    auto* base = reinterpret_cast<char*>(const_cast<Rgb*>(picture.pixels.data()));
    const std::size_t across = sizeof(Rgb), down = sizeof(Rgb) * static_cast<std::size_t>(picture.width);
    std::size_t offset = 0;
    for (const char* name : {"R", "G", "B"}) {
      frame.insert(name, Imf::Slice(Imf::FLOAT, base + offset, across, down));
      offset += sizeof(float);
    }
    file.setFrameBuffer(frame);
    file.writePixels(picture.height);
  } catch (const std::exception& e) {
    return not_written(path, e.what());
  }
  return beside->keep();
}

}  // namespace cinnabar
