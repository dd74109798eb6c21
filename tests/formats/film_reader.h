// A film read back by libav: its pictures, its rate and how much is heard.
#pragma once
#include <gtest/gtest.h>

#include <cmath>
#include <map>
#include <string>
#include <vector>

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libswscale/swscale.h>
}

namespace cinnabar::film_reader {

struct Film {
  int width = 0, height = 0;
  AVRational rate{};
  std::vector<std::vector<unsigned char>> pictures;  ///< 8-bit RGB
  std::vector<float> sound;                          ///< of one channel
  int sound_rate = 0;
};

inline std::vector<unsigned char> rgb_of(const AVFrame& frame) {
  const int row = (3 * frame.width + 63) / 64 * 64;  // padded, as the scaler wants it
  std::vector<unsigned char> padded(static_cast<std::size_t>(row) * static_cast<std::size_t>(frame.height) + 64),
      rgb;
  SwsContext* sws =
      sws_getContext(frame.width, frame.height, static_cast<AVPixelFormat>(frame.format), frame.width,
                     frame.height, AV_PIX_FMT_RGB24, SWS_BILINEAR, nullptr, nullptr, nullptr);
  const int* bt709 = sws_getCoefficients(SWS_CS_ITU709);
  sws_setColorspaceDetails(sws, bt709, 0, bt709, 1, 0, 1 << 16, 1 << 16);
  unsigned char* to[] = {padded.data()};
  const int across[] = {row};
  sws_scale(sws, frame.data, frame.linesize, 0, frame.height, to, across);
  sws_freeContext(sws);
  for (int y = 0; y < frame.height; ++y)
    rgb.insert(rgb.end(), padded.begin() + y * row, padded.begin() + y * row + 3 * frame.width);
  return rgb;
}

inline Film read(const std::string& path) {
  Film film;
  AVFormatContext* file = nullptr;
  EXPECT_EQ(avformat_open_input(&file, path.c_str(), nullptr, nullptr), 0) << path;
  if (!file) return film;
  EXPECT_GE(avformat_find_stream_info(file, nullptr), 0);
  std::map<int, AVCodecContext*> codecs;
  for (unsigned i = 0; i < file->nb_streams; ++i) {
    const AVStream& stream = *file->streams[i];
    const AVCodec* decoder = avcodec_find_decoder(stream.codecpar->codec_id);
    AVCodecContext* codec = avcodec_alloc_context3(decoder);
    avcodec_parameters_to_context(codec, stream.codecpar);
    codec->pkt_timebase = stream.time_base;
    EXPECT_EQ(avcodec_open2(codec, decoder, nullptr), 0);
    codecs[static_cast<int>(i)] = codec;
    if (codec->codec_type == AVMEDIA_TYPE_VIDEO)
      film.width = codec->width, film.height = codec->height, film.rate = stream.avg_frame_rate;
    else
      film.sound_rate = codec->sample_rate;
  }
  AVPacket* packet = av_packet_alloc();
  AVFrame* frame = av_frame_alloc();
  const auto taken = [&](AVCodecContext& codec, const AVPacket* from) {
    if (avcodec_send_packet(&codec, from) < 0) return;
    while (avcodec_receive_frame(&codec, frame) == 0) {
      if (codec.codec_type == AVMEDIA_TYPE_VIDEO) {
        film.pictures.push_back(rgb_of(*frame));
      } else {
        const auto* samples = reinterpret_cast<const float*>(frame->data[0]);
        film.sound.insert(film.sound.end(), samples, samples + frame->nb_samples);
      }
    }
  };
  while (av_read_frame(file, packet) == 0) {
    taken(*codecs[packet->stream_index], packet);
    av_packet_unref(packet);
  }
  for (auto& [index, codec] : codecs) {
    taken(*codec, nullptr);
    avcodec_free_context(&codec);
  }
  av_frame_free(&frame);
  av_packet_free(&packet);
  avformat_close_input(&file);
  return film;
}

/// Mean difference of two pictures, in 255ths.
inline double apart(const std::vector<unsigned char>& a, const std::vector<unsigned char>& b) {
  EXPECT_EQ(a.size(), b.size());
  double sum = 0;
  for (std::size_t i = 0; i < std::min(a.size(), b.size()); ++i) sum += std::abs(int(a[i]) - int(b[i]));
  return sum / static_cast<double>(std::max<std::size_t>(1, a.size()));
}

}  // namespace cinnabar::film_reader
