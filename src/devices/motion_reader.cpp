#include "cinnabar/devices/motion_reader.h"

#include <cctype>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"

namespace cinnabar {
namespace {

constexpr std::size_t longest_line = 256, most_lines = 200'000;

struct Word {
  char letter;
  double number;
};

/// What one line holds: its words, and its comments put together.
struct Block {
  std::vector<Word> words;
  std::string comment;
};

tl::unexpected<Error> at_line(std::size_t line, std::string message, std::string mend) {
  return fail(said("line {}", line), std::move(message), std::move(mend));
}

Expected<Block> read_block(std::string_view text, std::size_t line) {
  if (text.size() > longest_line)
    return at_line(line, said("has {} characters, at most {} are read", text.size(), longest_line), "break it up");
  Block out;
  std::string plain;  // without comments and blanks, in capitals
  bool commented = false;
  for (const char c : text) {
    if (commented) {
      if (c == '(') return at_line(line, "has a bracket within a comment", "close the first before the next");
      if (c == ')')
        commented = false;
      else
        out.comment += c;
      continue;
    }
    if (c == ';') break;
    if (c == '(')
      commented = true;
    else if (!std::isspace(static_cast<unsigned char>(c)))
      plain += static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
  }
  if (commented) return at_line(line, "has a comment that does not end", "close its bracket");
  for (std::size_t i = 0; i < plain.size();) {
    const char letter = plain[i++];
    std::size_t end = i;
    while (end < plain.size() && (std::isdigit(static_cast<unsigned char>(plain[end])) || plain[end] == '.' ||
                                  plain[end] == '-' || plain[end] == '+'))
      ++end;
    std::string_view digits = std::string_view(plain).substr(i, end - i);
    if (digits.starts_with('+')) digits.remove_prefix(1);
    const auto number = parse_number(digits);
    if (!std::isalpha(static_cast<unsigned char>(letter)) || !number)
      return at_line(line, said("\"{}\" is no letter and number", plain.substr(i - 1, end - i + 1)),
                     "write words like X12.5");
    out.words.push_back({letter, *number});
    i = end;
  }
  return out;
}

/// What goes on from line to line.
class ProgramReading {
 public:
  Expected<bool> take(const Block& block, std::size_t line);
  MotionPlan plan;
  bool ended = false;

 private:
  Expected<bool> set(const Word& word, std::size_t line);

  double unit_ = 1.0, feed_ = 0.0, clock_ = 0.0;
  bool moves_ = false, rapid_ = false, inverse_ = false;
};

/// The words that stay set from line to line.
Expected<bool> ProgramReading::set(const Word& word, std::size_t line) {
  if (word.letter == 'G') {
    if (word.number == 0 || word.number == 1)
      moves_ = true, rapid_ = word.number == 0;
    else if (word.number == 20)
      unit_ = 25.4;
    else if (word.number == 21)
      unit_ = 1.0;
    else if (word.number == 93 || word.number == 94)
      inverse_ = word.number == 93, feed_ = 0.0;
    else if (word.number == 91)
      return at_line(line, "asks for places from where it stands", "write absolute places, G90");
    else if (word.number != 90 && word.number != 4)
      return at_line(line, said("G{} is not known here", number_text(word.number)),
                     "use G0, G1, G4, G20, G21, G90, G93, G94");
  } else if (word.letter == 'M') {
    if (word.number != 2 && word.number != 30)
      return at_line(line, said("M{} is not known here", number_text(word.number)), "end with M2");
    ended = true;
  } else if (word.letter == 'F') {
    if (word.number <= 0) return at_line(line, "has a feed of nothing or less", "give one over nothing");
    feed_ = word.number;
  } else if (word.letter != 'N' && word.letter != 'P' &&
             axis_letters.find(word.letter) == std::string_view::npos) {
    return at_line(line, said("{} is not known here", std::string(1, word.letter)),
                   "use G, M, F, P, N and the axes X Y Z A B C");
  }
  return true;
}

Expected<bool> ProgramReading::take(const Block& block, std::size_t line) {
  MotionPiece piece;
  piece.line = line;
  bool dwells = false, feed_here = false, named = false;
  double wait = 0.0;
  for (const Word& word : block.words) {
    if (auto done = set(word, line); !done) return done;
    if (word.letter == 'G' && word.number == 4) dwells = true;
    if (word.letter == 'F') feed_here = true;
    if (word.letter == 'P') wait = word.number;
    if (const auto axis = axis_letters.find(word.letter); axis != std::string_view::npos) {
      piece.to[axis] = word.number * (axis_turns(axis) ? 1.0 : unit_);
      named = true;
    }
  }
  if (!block.comment.empty()) plan.remarks.emplace_back(clock_, block.comment);
  if (dwells) {
    if (named) return at_line(line, "waits and moves at once", "write two lines");
    if (!(wait >= 0.0) || wait > 3600.0)
      return at_line(line, "waits out of all measure", "give P from 0 to 3600 s");
    piece.seconds = wait;
    if (wait > 0.0) (inverse_ || !plan.run.empty() ? plan.run : plan.start).push_back(piece);
    if (!plan.run.empty()) clock_ += wait;
    return true;
  }
  if (!named) return true;
  if (!moves_) return at_line(line, "names places before G0 or G1", "say how it is to go there");
  if (inverse_ && !rapid_) {
    if (!feed_here) return at_line(line, "has no feed of its own, which inverse time wants", "give each G1 its F");
    piece.seconds = 60.0 / feed_;
    if (piece.seconds > 3600.0) return at_line(line, "takes over an hour", "give a greater F");
  } else if (!rapid_) {
    if (feed_ <= 0.0) return at_line(line, "has no feed", "give F before the first G1");
    // Of the ways alone where any is named, else of the angles (NISTIR 6556, section 2.1.2.5).
    piece.feed = feed_ * (piece.to[0] || piece.to[1] || piece.to[2] ? unit_ : 1.0);
  }
  if (piece.seconds > 0.0 || !plan.run.empty()) {
    plan.run.push_back(piece);
    clock_ += piece.seconds;
  } else {
    plan.start.push_back(piece);
  }
  return true;
}

}  // namespace

double MotionPlan::seconds() const {
  double all = 0.0;
  for (const MotionPiece& piece : run) all += piece.seconds;
  return all;
}

double MotionPlan::shot_begins() const {
  for (const auto& [when, text] : remarks)
    if (trimmed(text) == "the shot begins") return when;
  return 0.0;
}

Expected<MotionPlan> read_motion_program(const std::vector<std::string>& lines) {
  if (lines.size() > most_lines)
    return fail("program", said("has {} lines, at most {} are read", lines.size(), most_lines), "break it up");
  ProgramReading reading;
  for (std::size_t i = 0; i < lines.size() && !reading.ended; ++i) {
    const auto block = read_block(lines[i], i + 1);
    if (!block) return tl::unexpected<Error>(block.error());
    if (const auto done = reading.take(*block, i + 1); !done) return tl::unexpected<Error>(done.error());
  }
  if (reading.plan.run.empty() && reading.plan.start.empty())
    return fail("program", "moves nothing", "load one that does");
  if (reading.plan.run.empty()) reading.plan.run.swap(reading.plan.start);
  return std::move(reading.plan);
}

}  // namespace cinnabar
