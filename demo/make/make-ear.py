"""
Makes the toy speech model of the demo and the tests, and a recording that it hears: `python3 demo/make/make-ear.py`.
Needs numpy and Debian's flite. It knows sixteen words, said by flite's voices, and no other voice: it proves that models
from a folder are loaded, heard with, timed and compared; it is no use for anything else.

Sentences of random words are spoken at many speeds and pitches; flite tells when each phone ends. A network of three
convolutions over filter banks (as Kaldi computes them, which is what the library behind our models is given) is trained
to say, for every 40 ms, which piece of a word is spoken, and is written as ONNX.
"""
import os
import struct
import subprocess
import tempfile
import wave

import numpy as np

RATE = 16000
MELS = 80
STRIDE = 4
VOICES = ['slt', 'rms', 'awb', 'kal16']
HERE = os.path.dirname(os.path.abspath(__file__))
OUT = os.path.join(HERE, '..', 'models', 'tower-words')
RECORDING = os.path.join(HERE, '..', 'media', 'sixteen-words.mp3')
# The pieces of each word with how many of its phones each takes.
WORDS = {
    'the': [('the', 2)],
    'clock': [('clo', 3), ('ck', 1)],
    'bell': [('bell', 3)],
    'tower': [('tow', 2), ('er', 1)],
    'wheel': [('wheel', 3)],
    'weight': [('weight', 3)],
    'pendulum': [('pen', 3), ('du', 2), ('lum', 3)],
    'rope': [('rope', 3)],
    'oil': [('oil', 2)],
    'tooth': [('tooth', 3)],
    'swings': [('swing', 4), ('s', 1)],
    'strikes': [('strike', 5), ('s', 1)],
    'falls': [('fall', 3), ('s', 1)],
    'turns': [('turn', 3), ('s', 1)],
    'stops': [('stop', 4), ('s', 1)],
    'slowly': [('slow', 3), ('ly', 2)],
}
NAMES = list(WORDS)
PIECES = ['<blk>'] + sorted({('▁' if at == 0 else '') + piece for word in WORDS.values() for at, (piece, _) in enumerate(word)})
PIECES += ['<unk>']
NUMBER = {piece: at for at, piece in enumerate(PIECES)}
# The speech that the tests hear; none of these sentences is trained on.
SPOKEN = [
    'the clock stops', 'the bell strikes slowly', 'the weight falls', 'the rope turns the wheel',
    'the pendulum swings the tooth', 'oil the wheel', 'the tower bell swings', 'the tooth stops the wheel',
]


def speak(text, voice, stretch, pitch):
    """Samples, and for each word its phones as (from, to) in seconds."""
    with tempfile.TemporaryDirectory() as folder:
        path = os.path.join(folder, 'x.wav')
        settings = ['--setf', f'duration_stretch={stretch}']
        if pitch is not None:
            settings += ['--setf', f'int_f0_target_mean={pitch}']
        said = subprocess.run(['flite', '-voice', voice, *settings, '-t', text, '-o', path, '-psdur'],
                              check=True, capture_output=True, text=True).stdout
        with wave.open(path) as file:
            samples = np.frombuffer(file.readframes(file.getnframes()), np.int16).astype(np.float32) / 32768
    ends, last = [], 0.0
    for entry in said.split():
        phone, end = entry.rsplit(':', 1)
        if phone != 'pau':
            ends.append((last, float(end)))
        last = float(end)
    phones, at = [], 0
    for word in text.split():
        count = sum(phones_of for _, phones_of in WORDS[word])
        phones.append(ends[at:at + count])
        at += count
    return (samples, phones) if at == len(ends) else None


def mel(hz):
    return 1127 * np.log(1 + hz / 700)


def banks():
    """Kaldi's triangles between 20 and 7600 Hz, over the 257 bins of 512 samples."""
    low, high = mel(20.0), mel(RATE / 2 - 400)
    step = (high - low) / (MELS + 1)
    bins = mel(np.arange(257) * RATE / 512)
    table = np.zeros((257, MELS), np.float32)
    for at in range(MELS):
        left, middle, right = low + at * step, low + (at + 1) * step, low + (at + 2) * step
        table[:, at] = np.maximum(0, np.minimum((bins - left) / (middle - left), (right - bins) / (right - middle)))
    table[256] = 0
    return table


BANKS = banks()
WINDOW = ((0.5 - 0.5 * np.cos(2 * np.pi * np.arange(400) / 399)) ** 0.85).astype(np.float32)


def features(samples):
    count = (len(samples) + 80) // 160
    at = np.arange(count)[:, None] * 160 + 80 - 200 + np.arange(400)[None, :]
    at = np.where(at < 0, -at - 1, at)
    at = np.where(at >= len(samples), 2 * len(samples) - 1 - at, at)
    frames = samples[np.clip(at, 0, len(samples) - 1)]
    frames = frames - frames.mean(1, keepdims=True)
    frames = np.concatenate([frames[:, :1] * 0.03, frames[:, 1:] - 0.97 * frames[:, :-1]], 1) * WINDOW
    power = np.abs(np.fft.rfft(frames, 512)) ** 2
    return np.log(np.maximum(power.astype(np.float32) @ BANKS, 1.19e-7)).astype(np.float32)


def labels(text, phones, count):
    """For every fourth frame the piece that is said there."""
    target = np.zeros(count // STRIDE, np.int64)
    middles = (np.arange(len(target)) * STRIDE + 2) * 0.01
    for word, own in zip(text.split(), phones):
        at = 0
        for place, (piece, phones_of) in enumerate(WORDS[word]):
            name = ('▁' if place == 0 else '') + piece
            begin, end = own[at][0], own[at + phones_of - 1][1]
            target[(middles >= begin) & (middles < end)] = NUMBER[name]
            at += phones_of
        # What is said twice in a row is told apart by what says nothing.
        last = np.flatnonzero((middles >= own[0][0]) & (middles < own[-1][1]))
        if len(last) > 2:
            target[last[-1]] = 0
    return target


def make_data(count, random):
    data = []
    while len(data) < count:
        text = ' '.join(random.choice(NAMES, random.integers(2, 6)))
        voice = VOICES[len(data) % len(VOICES)]
        pitch = None if random.random() < 0.4 else int(random.integers(90, 200))
        said = speak(text, voice, round(float(random.uniform(0.75, 1.5)), 2), pitch)
        if said is None or text in SPOKEN:
            continue
        samples, phones = said
        before = round(float(random.uniform(0, 0.8)), 2)
        silence = np.zeros(int(before * RATE), np.float32)
        samples = np.concatenate([silence, samples * random.uniform(0.3, 1.6), silence]).astype(np.float32)
        phones = [[(begin + before, end + before) for begin, end in own] for own in phones]
        if random.random() < 0.6:
            samples += random.standard_normal(len(samples)).astype(np.float32) * 10 ** (random.uniform(-75, -36) / 20)
        fbank = features(samples)
        data.append((fbank, labels(text, phones, len(fbank))))
    return data


class Conv:
    def __init__(self, into, out, width, stride, pads, random):
        self.width, self.stride, self.pads = width, stride, pads
        self.weight = (random.standard_normal((width * into, out)) * np.sqrt(2 / (width * into))).astype(np.float32)
        self.bias = np.zeros(out, np.float32)
        self.moments = [np.zeros_like(self.weight), np.zeros_like(self.weight), np.zeros_like(self.bias), np.zeros_like(self.bias)]

    def forward(self, x):
        padded = np.pad(x, (self.pads, (0, 0)))
        count = (len(padded) - self.width) // self.stride + 1
        self.rows = np.lib.stride_tricks.as_strided(
            padded, (count, self.width * x.shape[1]), (padded.strides[0] * self.stride, padded.strides[1])).copy()
        self.shape = padded.shape
        return self.rows @ self.weight + self.bias

    def backward(self, gradient):
        self.gradients = (self.rows.T @ gradient, gradient.sum(0))
        rows = gradient @ self.weight.T
        back = np.zeros(self.shape, np.float32)
        channels = self.shape[1]
        for step in range(self.width):
            part = rows[:, step * channels:(step + 1) * channels]
            back[step:step + self.stride * len(part):self.stride][:len(part)] += part
        return back[self.pads[0]:len(back) - self.pads[1]]

    def learn(self, rate, step):
        for value, gradient, at in ((self.weight, self.gradients[0], 0), (self.bias, self.gradients[1], 2)):
            self.moments[at] = 0.9 * self.moments[at] + 0.1 * gradient
            self.moments[at + 1] = 0.999 * self.moments[at + 1] + 0.001 * gradient ** 2
            value -= rate * (self.moments[at] / (1 - 0.9 ** step)) / (np.sqrt(self.moments[at + 1] / (1 - 0.999 ** step)) + 1e-8)


def train(data, epochs, random):
    net = [Conv(MELS, 96, 17, STRIDE, (6, 7), random), Conv(96, 128, 9, 1, (4, 4), random), Conv(128, len(PIECES), 3, 1, (1, 1), random)]
    step = 0
    for epoch in range(epochs):
        rate = 0.002 * (1 - epoch / epochs) + 0.00005
        wrong = total = 0
        order = random.permutation(len(data))
        for begin in range(0, len(order), 8):
            some = [data[at] for at in order[begin:begin + 8]]
            gap = np.full((80, MELS), some[0][0].min(), np.float32)
            x = np.concatenate([part for fbank, _ in some for part in (fbank[:len(fbank) // STRIDE * STRIDE], gap)])
            y = np.concatenate([part for _, target in some for part in (target, np.zeros(80 // STRIDE, np.int64))])
            x = (x + 6) / 4
            hidden = [net[0].forward(x)]
            hidden.append(net[1].forward(np.maximum(hidden[0], 0)))
            scores = net[2].forward(np.maximum(hidden[1], 0))
            scores -= scores.max(1, keepdims=True)
            shares = np.exp(scores)
            shares /= shares.sum(1, keepdims=True)
            wrong += (shares.argmax(1) != y).sum()
            total += len(y)
            shares[np.arange(len(y)), y] -= 1
            back = net[2].backward(shares / len(y))
            back = net[1].backward(back * (hidden[1] > 0))
            net[0].backward(back * (hidden[0] > 0))
            step += 1
            for layer in net:
                layer.learn(rate, step)
        print(f'epoch {epoch}: {100 * wrong / total:.1f} % of frames wrong', flush=True)
    return net


# ONNX, in the wire form of Protocol Buffers.
def varint(value):
    out = b''
    while True:
        out += bytes([(value & 127) | (128 if value > 127 else 0)])
        value >>= 7
        if value == 0:
            return out


def field(number, value):
    if isinstance(value, int):
        return varint(number * 8) + varint(value)
    data = value.encode() if isinstance(value, str) else value
    return varint(number * 8 + 2) + varint(len(data)) + data


def tensor(name, array):
    kind = {np.dtype(np.float32): 1, np.dtype(np.int64): 7}[array.dtype]
    return b''.join(field(1, size) for size in array.shape) + field(2, kind) + field(8, name) + field(9, array.tobytes())


def attribute(name, value):
    if isinstance(value, int):
        return field(1, name) + field(3, value) + field(20, 2)
    return field(1, name) + b''.join(field(8, one) for one in value) + field(20, 7)


def node(kind, into, out, **attributes):
    return (b''.join(field(1, name) for name in into) + field(2, out) + field(4, kind)
            + b''.join(field(5, attribute(name, value)) for name, value in attributes.items()))


def value(name, kind, shape):
    dims = b''.join(field(1, field(1, size) if isinstance(size, int) else field(2, size)) for size in shape)
    return field(1, name) + field(2, field(1, field(1, kind) + field(2, dims)))


def write(net, path):
    weights, nodes = [], []
    # The scale of the features is part of the first layer: (x + 6) / 4.
    add, divide = np.array([6], np.float32), np.array([4], np.float32)
    weights += [tensor('add', add), tensor('divide', divide), tensor('stride', np.array([STRIDE], np.int64))]
    nodes += [node('Add', ['x', 'add'], 'added'), node('Div', ['added', 'divide'], 'scaled'),
              node('Transpose', ['scaled'], 'h0', perm=[0, 2, 1])]
    last = 'h0'
    for at, layer in enumerate(net):
        channels = layer.weight.shape[0] // layer.width
        kernel = layer.weight.reshape(layer.width, channels, -1).transpose(2, 1, 0)
        weights += [tensor(f'w{at}', np.ascontiguousarray(kernel)), tensor(f'b{at}', layer.bias)]
        nodes.append(node('Conv', [last, f'w{at}', f'b{at}'], f'c{at}', kernel_shape=[layer.width], strides=[layer.stride], pads=list(layer.pads)))
        last = f'c{at}'
        if at < len(net) - 1:
            nodes.append(node('Relu', [last], f'r{at}'))
            last = f'r{at}'
    nodes += [node('Transpose', [last], 'scores', perm=[0, 2, 1]), node('LogSoftmax', ['scores'], 'log_probs', axis=2),
              node('Div', ['x_lens', 'stride'], 'log_probs_len')]
    graph = (b''.join(field(1, one) for one in nodes) + field(2, 'tower-words') + b''.join(field(5, one) for one in weights)
             + field(11, value('x', 1, ['N', 'T', MELS])) + field(11, value('x_lens', 7, ['N']))
             + field(12, value('log_probs', 1, ['N', 'T4', len(PIECES)])) + field(12, value('log_probs_len', 7, ['N'])))
    metadata = {'model_type': 'zipformer2_ctc', 'language': 'en', 'vocab_size': str(len(PIECES)), 'version': '1'}
    model = (field(1, 8) + field(2, 'vine-tap') + field(7, graph) + field(8, field(1, '') + field(2, 13))
             + b''.join(field(14, field(1, key) + field(2, text)) for key, text in metadata.items()))
    with open(path, 'wb') as file:
        file.write(model)


def record(path):
    """The sentences in two voices, with pauses."""
    pause = np.zeros(int(0.7 * RATE), np.float32)
    parts = [pause]
    for at, text in enumerate(SPOKEN):
        samples, _ = speak(text, 'slt' if at % 2 == 0 else 'rms', 1.05, None)
        parts += [samples, pause]
    whole = np.clip(np.concatenate(parts) * 32767, -32768, 32767).astype(np.int16)
    subprocess.run(['ffmpeg', '-v', 'error', '-y', '-f', 's16le', '-ar', str(RATE), '-ac', '1', '-i', '-', '-b:a', '64k', path],
                   check=True, input=whole.tobytes())


def main():
    random = np.random.default_rng(11)
    net = train(make_data(int(os.environ.get('UTTERANCES', 1200)), random), int(os.environ.get('EPOCHS', 24)), random)
    os.makedirs(OUT, exist_ok=True)
    write(net, os.path.join(OUT, 'model.onnx'))
    with open(os.path.join(OUT, 'tokens.txt'), 'w', encoding='utf-8') as file:
        file.writelines(f'{piece} {at}\n' for at, piece in enumerate(PIECES))
    record(RECORDING)


if __name__ == '__main__':
    main()
