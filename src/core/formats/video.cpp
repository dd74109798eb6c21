#include "cinnabar/formats/video.h"

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/opt.h>
#include <libswscale/swscale.h>
}

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>

#include "cinnabar/base/files.h"
#include "cinnabar/base/keys.h"

namespace cinnabar {
namespace {

std::string libav_words(int code) {
  std::array<char, AV_ERROR_MAX_STRING_SIZE> text{};
  return av_strerror(code, text.data(), text.size()) == 0 ? text.data() : "code " + std::to_string(code);
}
tl::unexpected<Error> not_written(const std::string& path, int code) {
  return fail(path, "could not be written (" + libav_words(code) + ")",
              "check the folder, its permissions and the room on the disk", Fault::output);
}

}  // namespace

/// What a film is written with.
namespace video_parts {

struct Kind {
  const char *ending, *format, *pictures, *sound;
};
inline constexpr Kind kinds[] = {{".mp4", "mp4", "libx264", "aac"}, {".webm", "webm", "libvpx-vp9", "libopus"}};

template <auto Free>
struct FreedBy {
  template <class T>
  void operator()(T* t) const {
    Free(&t);
  }
};
using Codec = std::unique_ptr<AVCodecContext, FreedBy<avcodec_free_context>>;
using Frame = std::unique_ptr<AVFrame, FreedBy<av_frame_free>>;
using Packet = std::unique_ptr<AVPacket, FreedBy<av_packet_free>>;

}  // namespace video_parts

struct Video::Writing {
  std::string path;
  FileBeside beside;
  VideoForm form;
  AVFormatContext* file = nullptr;
  SwsContext* colours = nullptr;
  video_parts::Codec pictures, sound;
  AVStream *picture_stream = nullptr, *sound_stream = nullptr;
  video_parts::Frame given, picture, samples;  ///< given: RGB, its rows padded as the scaler wants them
  video_parts::Packet packet{av_packet_alloc()};
  std::vector<float> waiting;  ///< samples that do not fill a frame yet
  std::int64_t pictures_done = 0, samples_done = 0;

  Writing(std::string to, FileBeside at, const VideoForm& f)
      : path(std::move(to)), beside(std::move(at)), form(f) {}
  Writing(const Writing&) = delete;
  Writing& operator=(const Writing&) = delete;
  ~Writing() {
    if (file && file->pb) avio_closep(&file->pb);
    avformat_free_context(file);
    sws_freeContext(colours);
  }

  Expected<void> open(const video_parts::Kind& kind);
  [[nodiscard]] Expected<void> find(const char* name, video_parts::Codec& codec) const;
  [[nodiscard]] Expected<void> begin(AVCodecContext& codec, AVStream*& stream) const;
  Expected<void> open_pictures(const video_parts::Kind& kind);
  Expected<void> open_sound(const video_parts::Kind& kind);
  Expected<void> encode(AVCodecContext& codec, AVStream& stream, const AVFrame* frame);
  Expected<void> full_frames(bool last);
};

Expected<void> Video::Writing::find(const char* name, video_parts::Codec& codec) const {
  const AVCodec* encoder = avcodec_find_encoder_by_name(name);
  if (!encoder)
    return fail(path, std::string("needs the encoder ") + name + ", which libav here has not",
                "name the film .mp4 or .webm, whichever there is one for", Fault::output);
  codec.reset(avcodec_alloc_context3(encoder));
  if (file->oformat->flags & AVFMT_GLOBALHEADER) codec->flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
  return {};
}

/// The encoder as it was set, and a stream of the file for what it gives.
Expected<void> Video::Writing::begin(AVCodecContext& codec, AVStream*& stream) const {
  if (const int code = avcodec_open2(&codec, codec.codec, nullptr); code < 0) return not_written(path, code);
  stream = avformat_new_stream(file, nullptr);
  if (!stream) return not_written(path, AVERROR(ENOMEM));
  stream->time_base = codec.time_base;
  const int code = avcodec_parameters_from_context(stream->codecpar, &codec);
  return code < 0 ? Expected<void>(not_written(path, code)) : Expected<void>();
}

Expected<void> Video::Writing::open_pictures(const video_parts::Kind& kind) {
  CINNABAR_TRY(find(kind.pictures, pictures));
  const AVRational rate = av_d2q(form.rate, 1'001'000);
  pictures->width = form.width, pictures->height = form.height;
  pictures->time_base = av_inv_q(rate), pictures->framerate = rate;
  pictures->pix_fmt = AV_PIX_FMT_YUV420P;
  pictures->bit_rate = 0;  // by quality alone
  pictures->gop_size = std::max(1, static_cast<int>(std::lround(2.0 * form.rate)));
  pictures->color_range = AVCOL_RANGE_MPEG;
  pictures->colorspace = AVCOL_SPC_BT709, pictures->color_primaries = AVCOL_PRI_BT709;
  pictures->color_trc = AVCOL_TRC_IEC61966_2_1;
  av_opt_set(pictures->priv_data, "crf", std::string(kind.pictures) == "libx264" ? "18" : "24", 0);
  av_opt_set(pictures->priv_data, "preset", "medium", 0);
  av_opt_set(pictures->priv_data, "cpu-used", "4", 0);
  CINNABAR_TRY(begin(*pictures, picture_stream));
  picture_stream->avg_frame_rate = rate;
  picture.reset(av_frame_alloc());
  picture->format = pictures->pix_fmt, picture->width = form.width, picture->height = form.height;
  picture->color_range = pictures->color_range, picture->colorspace = pictures->colorspace;
  if (const int code = av_frame_get_buffer(picture.get(), 0); code < 0) return not_written(path, code);
  given.reset(av_frame_alloc());
  given->format = AV_PIX_FMT_RGB24, given->width = form.width, given->height = form.height;
  if (const int code = av_frame_get_buffer(given.get(), 0); code < 0) return not_written(path, code);
  colours = sws_getContext(form.width, form.height, AV_PIX_FMT_RGB24, form.width, form.height, AV_PIX_FMT_YUV420P,
                           SWS_BILINEAR | SWS_ACCURATE_RND | SWS_FULL_CHR_H_INP, nullptr, nullptr, nullptr);
  if (!colours) return not_written(path, AVERROR(ENOMEM));
  const int* bt709 = sws_getCoefficients(SWS_CS_ITU709);
  sws_setColorspaceDetails(colours, bt709, 1, bt709, 0, 0, 1 << 16, 1 << 16);
  return {};
}

Expected<void> Video::Writing::open_sound(const video_parts::Kind& kind) {
  CINNABAR_TRY(find(kind.sound, sound));
  sound->sample_fmt = std::string(kind.sound) == "aac" ? AV_SAMPLE_FMT_FLTP : AV_SAMPLE_FMT_FLT;
  sound->sample_rate = form.sound_rate;
  sound->time_base = {1, form.sound_rate};
  sound->bit_rate = 96000;
  av_channel_layout_default(&sound->ch_layout, 1);
  CINNABAR_TRY(begin(*sound, sound_stream));
  samples.reset(av_frame_alloc());
  samples->format = sound->sample_fmt, samples->nb_samples = sound->frame_size;
  samples->sample_rate = sound->sample_rate;
  av_channel_layout_copy(&samples->ch_layout, &sound->ch_layout);
  if (const int code = av_frame_get_buffer(samples.get(), 0); code < 0) return not_written(path, code);
  return {};
}

Expected<void> Video::Writing::open(const video_parts::Kind& kind) {
  if (const int code = avformat_alloc_output_context2(&file, nullptr, kind.format, beside.beside().c_str());
      code < 0)
    return not_written(path, code);
  CINNABAR_TRY(open_pictures(kind));
  CINNABAR_TRY(open_sound(kind));
  if (const int code = avio_open(&file->pb, beside.beside().c_str(), AVIO_FLAG_WRITE); code < 0)
    return not_written(path, code);
  if (const int code = avformat_write_header(file, nullptr); code < 0) return not_written(path, code);
  return {};
}

/// A frame into the encoder, and what it gives by then into the file; none: the end.
Expected<void> Video::Writing::encode(AVCodecContext& codec, AVStream& stream, const AVFrame* frame) {
  int code = avcodec_send_frame(&codec, frame);
  while (code >= 0) {
    code = avcodec_receive_packet(&codec, packet.get());
    if (code == AVERROR(EAGAIN) || code == AVERROR_EOF) return {};
    if (code < 0) break;
    av_packet_rescale_ts(packet.get(), codec.time_base, stream.time_base);
    packet->stream_index = stream.index;
    code = av_interleaved_write_frame(file, packet.get());
  }
  return code < 0 ? Expected<void>(not_written(path, code)) : Expected<void>();
}

/// What waits, in frames of the size that the encoder wants; the last one filled up with silence.
Expected<void> Video::Writing::full_frames(bool last) {
  const auto size = static_cast<std::size_t>(sound->frame_size);
  std::size_t taken = 0;
  while (waiting.size() - taken >= size || (last && taken < waiting.size())) {
    if (const int code = av_frame_make_writable(samples.get()); code < 0) return not_written(path, code);
    const std::size_t count = std::min(size, waiting.size() - taken);
    auto* to = reinterpret_cast<float*>(samples->data[0]);
    std::fill(to, to + size, 0.0f);
    std::copy_n(waiting.data() + taken, count, to);
    samples->pts = samples_done;
    samples_done += static_cast<std::int64_t>(size);
    taken += count;
    CINNABAR_TRY(encode(*sound, *sound_stream, samples.get()));
  }
  waiting.erase(waiting.begin(), waiting.begin() + static_cast<std::ptrdiff_t>(taken));
  return {};
}

Video::Video(std::unique_ptr<Writing> writing) : writing_(std::move(writing)) {}
Video::Video(Video&&) noexcept = default;
Video::~Video() = default;

Expected<Video> Video::begin(const std::string& path, const VideoForm& form) {
  const auto kind = std::find_if(std::begin(video_parts::kinds), std::end(video_parts::kinds),
                                 [&](const video_parts::Kind& k) { return path.ends_with(k.ending); });
  if (kind == std::end(video_parts::kinds))
    return fail(path, "is neither MP4 nor WebM", "end it in .mp4 or .webm", Fault::argument);
  for (const int side : {form.width, form.height})
    if (side < 16 || side > 8192 || side % 2 != 0)
      return fail(path, "cannot be " + std::to_string(form.width) + " x " + std::to_string(form.height),
                  "give even numbers of pixels from 16 to 8192", Fault::argument);
  if (!(form.rate >= 1.0 && form.rate <= 1000.0))
    return fail(path, "cannot have that rate", "give 1 to 1000 pictures a second", Fault::argument);
  auto beside = FileBeside::at(path);
  if (!beside) return tl::unexpected(beside.error());
  av_log_set_level(AV_LOG_ERROR);
  auto writing = std::make_unique<Writing>(path, std::move(*beside), form);
  if (const auto open = writing->open(*kind); !open) return tl::unexpected(open.error());
  return Video(std::move(writing));
}

Expected<void> Video::add_picture(const std::vector<std::uint8_t>& rgb) {
  Writing& w = *writing_;
  if (rgb.size() != 3u * static_cast<std::size_t>(w.form.width) * static_cast<std::size_t>(w.form.height))
    return fail(w.path, "was given a picture of another size", "give width x height x 3 bytes");
  if (const int code = av_frame_make_writable(w.picture.get()); code < 0) return not_written(w.path, code);
  const std::size_t across = 3u * static_cast<std::size_t>(w.form.width);
  for (int y = 0; y < w.form.height; ++y)
    std::memcpy(w.given->data[0] + static_cast<std::ptrdiff_t>(y) * w.given->linesize[0],
                rgb.data() + static_cast<std::size_t>(y) * across, across);
  sws_scale(w.colours, w.given->data, w.given->linesize, 0, w.form.height, w.picture->data, w.picture->linesize);
  w.picture->pts = w.pictures_done++;
  return w.encode(*w.pictures, *w.picture_stream, w.picture.get());
}

Expected<void> Video::add_sound(std::span<const float> samples) {
  writing_->waiting.insert(writing_->waiting.end(), samples.begin(), samples.end());
  return writing_->full_frames(false);
}

Expected<void> Video::keep() {
  Writing& w = *writing_;
  CINNABAR_TRY(w.full_frames(true));
  CINNABAR_TRY(w.encode(*w.pictures, *w.picture_stream, nullptr));
  CINNABAR_TRY(w.encode(*w.sound, *w.sound_stream, nullptr));
  if (const int code = av_write_trailer(w.file); code < 0) return not_written(w.path, code);
  if (const int code = avio_closep(&w.file->pb); code < 0) return not_written(w.path, code);
  return w.beside.keep();
}

}  // namespace cinnabar
