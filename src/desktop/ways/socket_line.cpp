#include "cinnabar/desktop/ways/socket_line.h"

#include <QHBoxLayout>

#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/devices/line_server.h"

namespace cinnabar {

SocketLine::SocketLine(LineLink* link, const Words& words, QWidget* parent) : QWidget(parent), link_(link) {
  socket_ = new QLineEdit(q(socket_folder()) + "/" + words.usual, this);
  socket_->setObjectName(words.stem + "Socket");
  socket_->setAccessibleName(words.name);
  socket_->setToolTip(words.tip);
  socket_->setMinimumWidth(60);
  join_ = new WordButton(tr("Join"), WordButton::Look::plain, this);
  join_->setObjectName(words.stem + "Join");
  join_->setCheckable(false);
  join_->setToolTip(words.join);
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  row->addWidget(socket_, 1);
  row->addWidget(join_);
  connect(join_, &WordButton::clicked, this, &SocketLine::joinOrLeave);
  connect(socket_, &QLineEdit::returnPressed, this, &SocketLine::joinOrLeave);
  connect(link_, &LineLink::changed, this, &SocketLine::refresh);
}

void SocketLine::joinOrLeave() {
  if (link_->joined()) return link_->leave();
  emit joining();
  link_->join(socket_->text().trimmed());
}

void SocketLine::refresh() {
  join_->setText(link_->joined() ? tr("Leave") : tr("Join"));
  socket_->setEnabled(!link_->joined());
}

}  // namespace cinnabar
