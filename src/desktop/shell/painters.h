// The interface thread paints by itself, and first.
#pragma once

namespace cinnabar {

/// Asks for turns of a tenth of a millisecond on the processors for the calling thread, the interface's: woken in
/// the middle of a worker's longer turn it does not wait for its end. Linked with it comes that Qt fills large
/// shapes in the thread that paints them (see the source): it would else part them among the threads of its global
/// pool and wait for those, some twenty times a picture, beside workers that have all processors.
void paintAloneAndFirst();

}  // namespace cinnabar
