#include "cinnabar/desktop/workers/line_link.h"

namespace cinnabar {
namespace {
constexpr qsizetype most_unread = 1 << 20;
}  // namespace

LineLink::LineLink(const Words& words, QObject* parent) : QObject(parent), words_(words) {
  connect(&socket_, &QLocalSocket::readyRead, this, &LineLink::hear);
  connect(&socket_, &QLocalSocket::connected, this, [this] {
    ask("hello", [this](const QString& answer) {
      if (!answer.startsWith(words_.hello)) return over(words_.stranger);
      welcomed();
    });
  });
  connect(&socket_, &QLocalSocket::disconnected, this, [this] { over(words_.gone); });
  connect(&socket_, &QLocalSocket::errorOccurred, this, [this](QLocalSocket::LocalSocketError error) {
    if (error != QLocalSocket::PeerClosedError) over(words_.nobody);
  });
}

LineLink::~LineLink() {
  const QSignalBlocker quiet(&socket_);  // what it says while it goes would come to what is gone already
  socket_.abort();
}

void LineLink::join(const QString& socket) {
  leave();
  socket_.connectToServer(socket);
}

void LineLink::over(const QString& why) {
  waiting_.clear();
  bytes_.clear();
  forget();
  {
    const QSignalBlocker quiet(&socket_);
    socket_.abort();
  }
  if (!why.isEmpty()) emit told(why, true);
  emit changed();
}

void LineLink::ask(const QString& line, Then then) {
  if (!joined()) return;
  waiting_.push_back(then ? std::move(then) : [this](const QString& answer) {
    if (answer.startsWith("error")) emit told(answer.mid(6), true);
  });
  socket_.write((line + "\n").toUtf8());
}

void LineLink::hear() {
  bytes_ += socket_.readAll();
  if (bytes_.size() > most_unread) return over(words_.stranger);
  for (qsizetype end; (end = bytes_.indexOf('\n')) >= 0;) {
    const QString line = QString::fromUtf8(bytes_.left(end)).trimmed();
    bytes_.remove(0, end + 1);
    heard(line);
  }
}

void LineLink::heard(const QString& line) {
  heard_ = true;
  if (line.isEmpty() || unasked(line) || waiting_.empty()) return;  // or nobody asked
  const Then then = std::move(waiting_.front());
  waiting_.pop_front();
  then(line);
}

}  // namespace cinnabar
